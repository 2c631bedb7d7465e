import { emptyProject } from '@/core/recipe/project';
import { parseProject } from '@/core/recipe/parseProject';
import { Problem } from '@/core/proof/problem';
import { type Bench, openBench, type Screen } from './bench';
import { type WorkerPool } from '@/engine/workerPool';
import { addFiles, restoreFrames } from './addFiles';
import { loadOriginal, loadProject, saveOriginal, saveProject, type StoredProject } from './database';
import { demoSetOf, offeredSets } from './demoSets';
import { START } from './session';

/** A new project on the shelf. */
export async function newProject(title: string): Promise<string> {
  const id = crypto.randomUUID();
  await saveProject(fresh(id, title));
  return id;
}

function fresh(id: string, title: string): StoredProject {
  const project = emptyProject(id, title, new Date().toISOString());
  return { id, changed: project.changed, project, session: START, past: [], future: [] };
}

/**
 * Puts a stored project on the bench and starts decoding its frames. The demo is made on its first visit, from the server's files.
 * @throws Problem when there is no such project or it is broken
 */
export async function openProject(id: string, pool: WorkerPool, screen?: Screen): Promise<Bench> {
  const stored = await loadProject(id);
  if (stored) {
    const project = parseProject(stored.project, stored.project.title);
    // steps that an earlier version wrote may not fit what it has become
    const same = stored.project.version === project.version;
    const steps = same ? {} : { past: [], future: [] };
    const bench = openBench({ pool, stored: { ...stored, project, ...steps }, save: saveProject, screen });
    void restoreFrames(bench, loadOriginal);
    return bench;
  }
  const wanted = demoSetOf(id);
  const offered = wanted && (await offeredSets()).find((s) => s.id === wanted);
  if (!offered)
    throw new Problem('This project is not in this browser. Open its project file from the shelf.');
  const made = fresh(id, offered.title);
  const project = { ...made.project, task: offered.task };
  const bench = openBench({ pool, stored: { ...made, project }, save: saveProject, screen });
  const files = offered.frames.map(({ file, url }) => ({ name: file, read: () => fetched(url) }));
  void addFiles(bench, files, saveOriginal);
  return bench;
}

async function fetched(url: string): Promise<Uint8Array> {
  const response = await fetch(url);
  if (!response.ok) throw new Problem(`The demo file ${url} could not be loaded. Reload the page.`);
  return new Uint8Array(await response.arrayBuffer());
}
