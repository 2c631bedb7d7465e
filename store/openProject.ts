import { sha256 } from '@/core/codecs/sha256';
import { Problem } from '@/core/proof/problem';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench, type Screen } from './benchState';
import { openBench } from './bench';
import { addFiles, restoreFrames } from './addFiles';
import {
  hasOriginal,
  loadJournal,
  loadOriginal,
  loadPreview,
  loadProject,
  type MirroredProject,
  mirroredProject,
  mirrorProject,
  removeUnused,
  saveOriginal,
  saveProject,
  writeJournal,
} from './database';
import { type StoredProject } from './storedProject';
import { demoSetOf, type OfferedSet, offeredSets } from './demoSets';
import { replayed } from './keeping/journal';
import { originalsOf } from './keeping/originals';
import { freshProject } from './newProject';
import { START } from './session';

/**
 * Puts a stored project on the bench and starts decoding its frames: the last whole state, and what its journal holds beyond. The demo is
 * made on its first visit, from the server's files.
 * @throws Problem when there is no such project or it is broken
 */
export async function openProject(id: string, pool: WorkerPool, screen?: Screen): Promise<Bench> {
  const beside = mirroredProject(id);
  const kept = await loadProject(id).catch(async (thrown: unknown) => {
    // a database that does not answer is no reason to do without what is kept beside it
    if (!(await beside)) throw thrown;
  });
  const stored = kept ?? (await beside);
  if (stored) {
    const bench = putOnBench(await checked(stored, pool, await beside), pool, screen);
    // before it is kept anew
    const earlier = await loadPreview(id).catch(() => undefined);
    bench.store.setState({ earlier });
    void restoreFrames(bench);
    return bench;
  }
  const wanted = demoSetOf(id);
  const offered = wanted && (await offeredSets()).find((s) => s.id === wanted.set);
  if (!offered || (wanted.finished && !offered.finished))
    throw new Problem('This project is not in this browser. Open its project file from the shelf.');
  if (wanted.finished && offered.finished) {
    const finished = await finishedStored(id, offered, offered.finished.recipe, pool);
    const bench = putOnBench(finished, pool, screen);
    void restoreFrames(bench);
    return bench;
  }
  const made = freshProject(id, offered.title);
  const bench = putOnBench({ ...made, project: { ...made.project, task: offered.task } }, pool, screen);
  const files = offered.frames.map(({ file, url }) => ({ name: file, read: () => fetched(url) }));
  void addFiles(bench, files);
  return bench;
}

/**
 * What is stored, with its journal, through the gate.
 * @param beside the project as it was kept a second time: the newer one counts, since the database may not have taken the last changes
 */
async function checked(
  stored: StoredProject,
  pool: WorkerPool,
  beside: MirroredProject | undefined,
): Promise<StoredProject> {
  const lines = await loadJournal(stored).catch(() => []);
  const replay = replayed(stored, stored.saved ?? 0, lines);
  const newer = beside !== undefined && Date.parse(beside.changed) > Date.parse(replay.project?.changed);
  const { session, ...history } = newer ? beside : replay;
  const where = typeof stored.project?.title === 'string' ? stored.project.title : 'This project';
  const project = await pool.run((tasks) => tasks.parseProject(history.project, where), { priority: 3 });
  // steps that an earlier version wrote may not fit what it has become
  const same = history.project.version === project.version;
  return {
    id: stored.id,
    changed: project.changed,
    project,
    session,
    past: same ? history.past : [],
    future: same ? history.future : [],
  };
}

/** Opens the bench, and makes the project this tab's: what another one still writes is turned away. */
function putOnBench(stored: StoredProject, pool: WorkerPool, screen?: Screen): Bench {
  const mine = { ...stored, holder: crypto.randomUUID(), saved: 0 };
  let taken = false;
  const save = async (state: StoredProject): Promise<void> => {
    await saveProject(state, !taken);
    taken = true;
  };
  return openBench({
    pool,
    stored: mine,
    unsaved: true,
    save,
    journal: writeJournal,
    mirror: mirrorProject,
    originals: originalsOf({
      save: saveOriginal,
      load: loadOriginal,
      has: hasOriginal,
      remove: removeUnused,
    }),
    screen,
  });
}

/**
 * A demo set as it was finished: its recipe, with the frames as the server has them. They may have been shot by another machine, whose files
 * are not the same to the byte; a frame is told by its name.
 */
async function finishedStored(
  id: string,
  { frames }: OfferedSet,
  recipe: string,
  pool: WorkerPool,
): Promise<StoredProject> {
  const text = new TextDecoder().decode(await fetched(recipe));
  const project = await pool.run((tasks) => tasks.parseProject(JSON.parse(text) as unknown, id), {
    priority: 3,
  });
  const own = await Promise.all(
    project.frames.map(async (frame) => {
      const url = frames.find((f) => f.file === frame.file)?.url;
      if (!url)
        throw new Problem(`The demo has no file “${frame.file}”. Run “npm run demo:shoot”, then reload.`);
      const bytes = await fetched(url);
      const hash = await sha256(bytes);
      await saveOriginal(hash, bytes);
      return { ...frame, hash, bytes: bytes.length };
    }),
  );
  const set = project.sets.find((s) => s.id === project.base);
  return {
    id,
    changed: project.changed,
    project: { ...project, id, frames: own },
    session: { ...START, station: 'finish', look: 'finished', frame: set?.reference ?? '' },
    past: [],
    future: [],
  };
}

async function fetched(url: string): Promise<Uint8Array> {
  const response = await fetch(url);
  if (!response.ok) throw new Problem(`The demo file ${url} could not be loaded. Reload the page.`);
  return new Uint8Array(await response.arrayBuffer());
}
