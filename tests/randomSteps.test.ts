import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { projectBench } from '@/cli/projectBench';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';
import { parseProject } from '@/core/recipe/parseProject';
import { emptyProject, type Project } from '@/core/recipe/project';
import { addFiles, restoreFrames } from '@/store/addFiles';
import { type Bench } from '@/store/bench';
import { finishedPicture } from '@/store/deliver';
import { replaceFrames } from '@/store/placeFrames';
import { upToDate } from '@/store/stages/finishStage';
import { whenState } from '@/store/whenState';
import { inlinePool } from './inlinePool';
import { randomChange } from './randomChange';
import { smallBracket } from './smallBracket';

const pool = inlinePool(2);
afterAll(() => pool.close());

/** tried in every run; more of them by hand */
const SEQUENCES = Number(process.env.SEQUENCES ?? 3);

let start: Project;
const originals = new Map<string, Uint8Array>();

/** Waits until all of it is made and measured. */
async function settled(bench: Bench): Promise<void> {
  await whenState(bench.store, (state) => {
    if (state.problems.length > 0) throw new Error(state.problems.join(' '));
    if (state.paused) throw new Error('it stopped');
    return (
      !state.work && state.finished !== undefined && upToDate(state, state.history.project) !== undefined
    );
  });
}

/** A bench that opens a project from what a file of it holds. */
async function reopened(project: Project): Promise<Bench> {
  const kept = parseProject(JSON.parse(JSON.stringify(project)), 'kept');
  const bench = projectBench(pool, kept, originals);
  await restoreFrames(bench);
  return bench;
}

beforeAll(async () => {
  const bench = projectBench(pool, emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'), originals);
  const come = async (seed: number, count: number): Promise<string[]> => {
    const before = bench.store.getState().history.project.frames;
    const shots = (await smallBracket(false, [132, 90], seed)).slice(0, count);
    await addFiles(
      bench,
      shots.map(({ name, buffer }) => ({
        name: `${seed}-${name}`,
        read: () => Promise.resolve(new Uint8Array(buffer)),
      })),
    );
    const { frames } = bench.store.getState().history.project;
    return frames.slice(before.length).map((f) => f.id);
  };
  await come(81, 3);
  await replaceFrames(bench, await come(45, 3), { kind: 'own' });
  await replaceFrames(bench, await come(7, 1), { kind: 'plates' });
  await settled(bench);
  start = bench.store.getState().history.project;
  expect([start.sets.length, start.layers.length, start.frames.length]).toEqual([2, 3, 7]);
  originals.clear();
  for (const frame of start.frames) {
    const bytes = await bench.originals.load(frame.hash);
    if (bytes) originals.set(frame.hash, bytes);
  }
  await bench.actions.close();
});

const pictureOf = (bench: Bench): Promise<EncodedImage> => finishedPicture(bench, 65535, 0);

/**
 * Any sequence of edits, undo, redo and reloads leads to the graph and the pixels of a project that is opened in that state and remembers
 * nothing: what was shown before, fitted before and made before has no say.
 */
test.each(Array.from({ length: SEQUENCES }, (_, k) => k + 1))(
  'a hundred steps there and back, %i: the graph and the pixels of a fresh project',
  async (seed) => {
    const random = randomSource(seed);
    let bench = await reopened(start);
    const said: string[] = [];
    for (let k = 0; k < 100; k++) {
      const what = random();
      if (what < 0.12) bench.actions.undo();
      else if (what < 0.18) bench.actions.redo();
      else if (what < 0.2) {
        const { project } = bench.store.getState().history;
        await bench.actions.close();
        bench = await reopened(project);
      } else {
        const step = randomChange(bench.store.getState().history.project, random, `n${seed}-${k}`);
        bench.actions.edit(step.label, step.change);
        said.push(step.label);
      }
      // now and then what was asked for is made before the next step, mostly it is overtaken
      if (random() < 0.05) await settled(bench);
    }
    await settled(bench);
    const { project } = bench.store.getState().history;
    const fresh = await reopened({ ...project, made: {} });
    await settled(fresh);
    const graphOf = (b: Bench) => {
      const state = b.store.getState();
      return upToDate(state, state.history.project)?.compiled.finished;
    };
    expect(graphOf(bench)).toBeDefined();
    expect({ said, graph: graphOf(fresh) }).toEqual({ said, graph: graphOf(bench) });
    const [a, b] = [await pictureOf(bench), await pictureOf(fresh)];
    expect([a.width, a.height]).toEqual([b.width, b.height]);
    expect(Buffer.compare(Buffer.from(a.data.buffer), Buffer.from(b.data.buffer))).toBe(0);
    await Promise.all([bench.actions.close(), fresh.actions.close()]);
  },
);
