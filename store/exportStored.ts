import { Problem } from '@/core/proof/problem';
import { type WorkerPool } from '@/engine/workerPool';
import { loadOriginal, loadPreview, loadProject, namedOriginals, shelfCard } from './database';
import { type OutFile } from './deliver';
import { fileStem } from './fileStem';

/**
 * Packs what is stored of a project without opening it, whatever state it is in: recipe, originals that are there, small picture.
 * @throws Problem when nothing of it is left
 */
export async function exportStored(id: string, pool: WorkerPool): Promise<OutFile> {
  const stored = await loadProject(id);
  if (!stored) throw new Problem('Nothing of this project is left in this browser. Take it off the shelf.');
  const originals = new Map<string, Uint8Array>();
  for (const hash of namedOriginals(stored)) {
    const bytes = await loadOriginal(hash);
    if (bytes) originals.set(hash, bytes);
  }
  const preview = await loadPreview(id);
  const bytes = await pool.run((tasks) =>
    tasks.packProject({ project: stored.project, originals, preview }, new Date()),
  );
  const { title } = shelfCard(id, stored, undefined);
  return { name: `${fileStem(title)}.marsh.zip`, type: 'application/zip', bytes };
}
