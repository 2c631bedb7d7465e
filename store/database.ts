import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { type Project } from '@/core/recipe/project';
import { type Change } from './history';
import { type Session } from './session';

/** A project as it lies in the browser, with where the user was and what can be taken back. */
export interface StoredProject {
  readonly id: string;
  readonly changed: string;
  readonly project: Project;
  readonly session: Session;
  readonly past: readonly Change[];
  readonly future: readonly Change[];
  /** small JPEG of the finished picture */
  readonly preview?: Uint8Array;
}

interface MarshSchema extends DBSchema {
  projects: { key: string; value: StoredProject; indexes: { changed: string } };
  originals: { key: string; value: Uint8Array };
}

export type Database = IDBPDatabase<MarshSchema>;

let open: Promise<Database> | undefined;

/** The browser's own store; one connection a page. */
export function database(): Promise<Database> {
  return (open ??= openDB<MarshSchema>('marsh', 1, {
    upgrade: (db) => {
      db.createObjectStore('projects', { keyPath: 'id' }).createIndex('changed', 'changed');
      db.createObjectStore('originals');
    },
    // another tab wants a newer layout: let it
    blocking: (_current, _blocked, event) => (event.target as IDBDatabase).close(),
    terminated: () => (open = undefined),
  }));
}

/** Projects on the shelf, last changed first. */
export async function listProjects(): Promise<StoredProject[]> {
  return (await (await database()).getAllFromIndex('projects', 'changed')).reverse();
}

export async function loadProject(id: string): Promise<StoredProject | undefined> {
  return (await database()).get('projects', id);
}

/** Writes one project whole; a new preview replaces the old one, none keeps it. */
export async function saveProject(stored: StoredProject): Promise<void> {
  const transaction = (await database()).transaction('projects', 'readwrite');
  const before = await transaction.store.get(stored.id);
  await transaction.store.put({ ...stored, preview: stored.preview ?? before?.preview });
  await transaction.done;
}

export async function saveOriginal(hash: string, bytes: Uint8Array): Promise<void> {
  await (await database()).put('originals', bytes, hash);
}

export async function loadOriginal(hash: string): Promise<Uint8Array | undefined> {
  return (await database()).get('originals', hash);
}

/** Takes a project off the shelf, and the originals that no other project uses. */
export async function deleteProject(id: string): Promise<void> {
  const db = await database();
  const transaction = db.transaction(['projects', 'originals'], 'readwrite');
  const projects = transaction.objectStore('projects');
  const gone = await projects.get(id);
  await projects.delete(id);
  // steps that can still be taken back may hold frames too, so all hashes named anywhere count
  const rest = JSON.stringify((await projects.getAll()).map((p) => [p.project.frames, p.past, p.future]));
  const named = new Set(
    JSON.stringify([gone?.project.frames, gone?.past, gone?.future]).match(/[0-9a-f]{64}/g) ?? [],
  );
  for (const hash of named) if (!rest.includes(hash)) await transaction.objectStore('originals').delete(hash);
  await transaction.done;
}

/** Replaces the preview of a stored project. */
export async function savePreview(id: string, preview: Uint8Array): Promise<void> {
  const transaction = (await database()).transaction('projects', 'readwrite');
  const stored = await transaction.store.get(id);
  if (stored) await transaction.store.put({ ...stored, preview });
  await transaction.done;
}
