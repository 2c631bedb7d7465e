import { unpackProject } from '@/core/codecs/projectFile';
import { Problem } from '@/core/proof/problem';
import { type StoredProject } from './database';
import { START } from './session';

/**
 * Opens a project file onto the shelf. When a project of the same identity is already there, the file becomes a copy, so that
 * nothing made is overwritten.
 * @returns the stored project; the caller goes there
 */
export async function importProject(
  file: string,
  bytes: Uint8Array,
  shelf: {
    readonly has: (id: string) => Promise<boolean>;
    readonly keep: (hash: string, bytes: Uint8Array) => Promise<void>;
    readonly save: (stored: StoredProject) => Promise<void>;
    readonly newId: () => string;
  },
): Promise<StoredProject> {
  const { project, originals, preview } = unpackProject(file, bytes);
  for (const [hash, original] of originals) {
    const digest = await crypto.subtle.digest('SHA-256', new Uint8Array(original).buffer);
    const actual = [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
    if (actual !== hash)
      throw new Problem(`“${file}” is damaged: an original in it has changed. Open another copy.`);
    await shelf.keep(hash, original);
  }
  const known = await shelf.has(project.id);
  const own = known
    ? { ...project, id: shelf.newId(), title: `${project.title} (copy)`.slice(0, 200) }
    : project;
  const stored: StoredProject = {
    id: own.id,
    changed: own.changed,
    project: own,
    session: { ...START, station: 'merge', look: 'result', frame: own.set.reference },
    past: [],
    future: [],
    preview,
  };
  await shelf.save(stored);
  return stored;
}
