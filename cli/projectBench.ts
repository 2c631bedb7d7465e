import { readFile } from 'node:fs/promises';
import { openProjectFile } from '@/core/codecs/openProjectFile';
import { Problem } from '@/core/proof/problem';
import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { restoreFrames } from '@/store/addFiles';
import { type Bench, openBench } from '@/store/bench';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { START } from '@/store/session';
import { proofStage, upToDate } from '@/store/stages/finishStage';
import { whenState } from '@/store/whenState';

/** Opens a project without a browser: the same bench, whose originals are held in memory. */
export function projectBench(
  pool: WorkerPool,
  project: Project,
  originals: ReadonlyMap<string, Uint8Array> = new Map(),
): Bench {
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  return openBench({
    pool,
    stored,
    save: () => Promise.resolve(),
    originals: memoryOriginals(new Map(originals)),
  });
}

/**
 * Reads a project file and its originals.
 * @throws Problem that names the file when it, or an original in it, cannot be read
 */
export async function openProject(pool: WorkerPool, file: string): Promise<Bench> {
  const bytes = await readFile(file).catch(() => {
    throw new Problem(`“${file}” cannot be opened. Check its name and that you may read it.`);
  });
  const opened = await openProjectFile(file, new Blob([bytes]));
  const { project } = await opened.read();
  const originals = new Map<string, Uint8Array>();
  for (const frame of project.frames) originals.set(frame.hash, await opened.original(frame));
  const bench = projectBench(pool, project, originals);
  await restoreFrames(bench);
  return bench;
}

/**
 * Waits until everything that the recipe asks for is made, and lets the bench rest then: what is drawn next has the machine to itself.
 * @param progress told what is being made
 * @param isProofed waits for the proof, too
 * @throws Problem with the bench's own sentences when it stopped before
 */
export async function wholeBench(
  bench: Bench,
  progress: (text: string) => void,
  isProofed: boolean,
): Promise<void> {
  let said = '';
  await whenState(bench.store, (state) => {
    const text = state.work?.text ?? '';
    if (text !== said && text !== '') progress(text);
    said = text;
    if (state.work) return false;
    if (
      state.finished &&
      upToDate(state, state.history.project) &&
      (!isProofed || proofStage(state, state.history.project) === undefined)
    )
      return true;
    if (state.paused || state.problems.length > 0)
      throw new Problem(state.problems.join(' ') || 'The picture could not be made.');
    return false;
  });
  bench.store.setState({ paused: true });
}
