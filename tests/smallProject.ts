import { projectBench } from '@/cli/projectBench';
import { parseProject } from '@/core/recipe/parseProject';
import { emptyProject } from '@/core/recipe/emptyProject';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { addFiles, restoreFrames } from '@/store/addFiles';
import { type Bench } from '@/store/benchState';
import { replaceFrames } from '@/store/placeFrames';
import { upToDate } from '@/store/stages/finishStage';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { whenState } from '@/store/whenState';
import { type Random, randomChange } from './randomChange';
import { smallBracket } from './smallBracket';

/** A project and the files of its frames, by hash. */
export interface SmallProject {
  readonly project: Project;
  readonly originals: ReadonlyMap<string, Uint8Array>;
}

/** Waits until all of it is made and measured. @throws Error with what the bench reports */
export async function settled(bench: Bench): Promise<void> {
  await whenState(bench.store, (state) => {
    if (state.problems.length > 0) throw new Error(state.problems.join(' '));
    if (state.paused) throw new Error('it stopped');
    return (
      !state.work && state.finished !== undefined && upToDate(state, state.history.project) !== undefined
    );
  });
}

/** A bench that opens a project from what a file of it holds. */
export async function reopened(pool: WorkerPool, { project, originals }: SmallProject): Promise<Bench> {
  const kept = parseProject(JSON.parse(JSON.stringify(project)), 'kept');
  const bench = projectBench(pool, kept, memoryOriginals(new Map(originals)));
  await restoreFrames(bench);
  return bench;
}

/** Two sets of three frames and a picture by itself, small: where {@link randomChange} begins. */
export async function smallProject(pool: WorkerPool): Promise<SmallProject> {
  const bench = projectBench(pool, emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'));
  const come = async (seed: number, count: number): Promise<string[]> => {
    const before = bench.store.getState().history.project.frames.length;
    const shots = (await smallBracket(false, [132, 90], seed)).slice(0, count);
    await addFiles(
      bench,
      shots.map(({ name, buffer }) => ({
        name: `${seed}-${name}`,
        read: () => Promise.resolve(new Uint8Array(buffer)),
      })),
    );
    const { frames } = bench.store.getState().history.project;
    return frames.slice(before).map((f) => f.id);
  };
  await come(81, 3);
  await replaceFrames(bench, await come(45, 3), { kind: 'own' });
  await replaceFrames(bench, await come(7, 1), { kind: 'plates' });
  await settled(bench);
  const { project } = bench.store.getState().history;
  const originals = new Map<string, Uint8Array>();
  for (const frame of project.frames) {
    const bytes = await bench.originals.load(frame.hash);
    if (bytes) originals.set(frame.hash, bytes);
  }
  await bench.actions.close();
  return { project, originals };
}

/** Makes so many random steps one after the other. */
export function takeSteps(bench: Bench, random: Random, count: number, name: string): void {
  for (let k = 0; k < count; k++) {
    const step = randomChange(bench.store.getState().history.project, random, `${name}-${k}`);
    bench.actions.edit(step.label, step.change);
  }
}
