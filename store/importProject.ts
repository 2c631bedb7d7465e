import { type PackedFile } from '@/core/codecs/openProjectFile';
import { type WorkerPool } from '@/engine/workerPool';
import { type StoredProject } from './storedProject';
import { START } from './session';

/** Where an opened project file goes. */
export interface ImportShelf {
  readonly has: (id: string) => Promise<boolean>;
  readonly keep: (hash: string, bytes: Uint8Array) => Promise<void>;
  /** takes originals away again that no project names */
  readonly drop: (hashes: readonly string[]) => Promise<void>;
  readonly save: (stored: StoredProject) => Promise<void>;
  readonly savePreview: (id: string, preview: Uint8Array) => Promise<void>;
  readonly newId: () => string;
}

export interface ImportOptions {
  readonly signal?: AbortSignal;
  /** share of the work done, 0…1 */
  readonly onProgress?: (done: number) => void;
}

/** milliseconds that one part of a project file may take to unpack */
const UNPACK_LIMIT = 60_000;

/**
 * Opens a project file onto the shelf, part by part in the pool. When a project of the same identity is already there, the file becomes
 * a copy, so that nothing made is overwritten. A file that is refused, or given up, leaves nothing behind.
 * @returns the stored project; the caller goes there
 */
export async function importProject(
  pool: WorkerPool,
  file: string,
  packed: PackedFile,
  shelf: ImportShelf,
  { signal, onProgress }: ImportOptions = {},
): Promise<StoredProject> {
  const bounds = { signal, limit: UNPACK_LIMIT, interrupt: true };
  const { project, preview } = await pool.run((tasks) => tasks.readProjectFile(file, packed), bounds);
  const kept = new Set<string>();
  try {
    for (const frame of project.frames) {
      if (kept.has(frame.hash)) continue;
      const bytes = await pool.run((tasks) => tasks.unpackOriginal(file, packed, frame), bounds);
      kept.add(frame.hash);
      await shelf.keep(frame.hash, bytes);
      onProgress?.(kept.size / project.frames.length);
    }
    const known = await shelf.has(project.id);
    const own = known
      ? { ...project, id: shelf.newId(), title: `${project.title} (copy)`.slice(0, 200) }
      : project;
    const stored: StoredProject = {
      id: own.id,
      changed: own.changed,
      project: own,
      session: {
        ...START,
        station: 'merge',
        look: 'result',
        frame: own.sets.find((s) => s.id === own.base)?.reference ?? '',
      },
      past: [],
      future: [],
    };
    await shelf.save(stored);
    // the shelf has the project without its small picture too
    if (preview) await shelf.savePreview(own.id, preview).catch(() => undefined);
    return stored;
  } catch (thrown) {
    await shelf.drop([...kept]).catch(() => undefined);
    throw thrown;
  }
}
