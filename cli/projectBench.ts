import { openAsBlob } from 'node:fs';
import { type OpenedProjectFile, openProjectFile } from '@/core/codecs/openProjectFile';
import { Problem } from '@/core/proof/problem';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { restoreFrames } from '@/store/addFiles';
import { type Bench, type BenchState } from '@/store/benchState';
import { openBench } from '@/store/bench';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { type Originals } from '@/store/keeping/originals';
import { START } from '@/store/session';
import { proofStage, upToDate } from '@/store/stages/finishStage';
import { whenState } from '@/store/whenState';

/** Opens a project without a browser: the same bench, whose originals are held in memory when they are kept nowhere else. */
export function projectBench(
  pool: WorkerPool,
  project: Project,
  originals: Originals = memoryOriginals(),
): Bench {
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  return openBench({
    pool,
    stored,
    save: () => Promise.resolve(),
    originals,
    isSeen: false,
  });
}

/** Originals that stay in the project file. */
function packedOriginals(opened: OpenedProjectFile, { frames }: Project): Originals {
  const byHash = new Map(frames.map((f) => [f.hash, f]));
  return {
    keep: () => Promise.resolve(),
    load: async (hash) => {
      const frame = byHash.get(hash);
      return frame && opened.original(frame);
    },
    drop: () => Promise.resolve(),
    mend: () => Promise.resolve([]),
  };
}

/** @throws Problem when it cannot be opened */
async function inFile(file: string): Promise<Blob> {
  try {
    return await openAsBlob(file);
  } catch {
    throw new Problem(`“${file}” cannot be opened. Check its name and that you may read it.`);
  }
}

/**
 * Reads a project file and its originals.
 * @throws Problem that names the file when it, or an original in it, cannot be read
 */
export async function openProject(pool: WorkerPool, file: string): Promise<Bench> {
  // read where it lies: what is in the file need not be in memory too
  const packed = await inFile(file);
  const opened = await openProjectFile(file, packed);
  const { project } = await opened.read();
  const bench = projectBench(pool, project, packedOriginals(opened, project));
  await restoreFrames(bench);
  // a picture without one of its frames is not the picture that the file says
  const { problems } = bench.store.getState();
  if (problems.length > 0) {
    await bench.actions.close();
    throw new Problem(problems.join(' '));
  }
  return bench;
}

/** Whether all that the recipe asks for is made and measured. @param isProofed with the proof */
export const isWhole =
  (isProofed: boolean) =>
  (state: BenchState): boolean => {
    const { project } = state.history;
    return (
      state.finished !== undefined &&
      upToDate(state, project) !== undefined &&
      (!isProofed || proofStage(state, project) === undefined)
    );
  };

/**
 * Waits until what is wanted is made.
 * @param progress told what is being made
 * @throws Problem with the bench's own sentences when it stopped before
 */
export async function whenMade(
  bench: Bench,
  progress: (text: string) => void,
  isMade: (state: BenchState) => boolean,
): Promise<void> {
  let said = '';
  await whenState(bench.store, (state) => {
    const text = state.work?.text ?? '';
    if (text !== said && text !== '') progress(text);
    said = text;
    if (isMade(state)) return true;
    if (state.work) return false;
    if (state.paused || state.problems.length > 0)
      throw new Problem(state.problems.join(' ') || 'The picture could not be made.');
    return false;
  });
}

/** Lets nothing start by itself any more: what is drawn next has the machine to itself. */
export const rest = (bench: Bench): void => bench.store.setState({ paused: true });
