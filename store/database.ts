import { openDB } from 'idb';
import { plainText } from '@/core/recipe/plainText';
import { isRealDate } from '@/core/capture/realDate';
import { sha256 } from '@/core/codecs/sha256';
import { type Project } from '@/core/recipe/project';
import { keepReserve, makeRoom, needRoom } from './keeping/diskRoom';
import { fileStore } from './keeping/fileStore';
import { type JournalLine } from './keeping/journal';
import { RENEWED, renewLog } from './keeping/renewLog';
import { TakenOver } from './keeping/takenOver';
import { within } from './keeping/within';
import { START } from './session';
import { type Database, type MarshSchema } from './keeping/databaseSchema';
import { type StoredProject } from './storedProject';

let open: Promise<Database> | undefined;
/** the connection, once it stands: what must be written at once cannot wait for a promise */
let standing: Database | undefined;

/**
 * Whether what is appended to the database's log will be read again: not after a write broke off, in this page's life or perhaps in an
 * earlier one, until the database has begun a new log.
 */
let log: 'unknown' | 'torn' | 'whole' = 'unknown';

function forget(): void {
  open = undefined;
  standing = undefined;
}

function brokenOff(): void {
  log = 'torn';
  forget();
}

/** The browser's own store; one connection a page, opened anew when it was closed. */
export function database(): Promise<Database> {
  if (open) return open;
  const opening = openDB<MarshSchema>('marsh', 2, {
    upgrade: (db, from) => {
      if (from < 1) {
        db.createObjectStore('projects', { keyPath: 'id' }).createIndex('changed', 'changed');
        db.createObjectStore('originals');
      }
      if (from < 2) {
        db.createObjectStore('previews');
        db.createObjectStore('journal', { keyPath: ['project', 'holder', 'line'] });
      }
    },
    // another tab wants a newer layout: let it
    blocking: (_current, _blocked, event) => {
      forget();
      (event.target as IDBDatabase).close();
    },
    terminated: brokenOff,
  });
  open = opening;
  opening.then((db) => (standing = db), brokenOff);
  return opening;
}

/** seconds after which the store counts as not answering */
const ANSWERS_WITHIN = 10;

/** Does something with the store; once more with a new connection when the old one turns out to be closed. */
async function withDatabase<T>(run: (db: Database) => Promise<T>): Promise<T> {
  const attempt = async (): Promise<T> => {
    // a browser that opens a database with a hole in its log on a full disk may give all of it up
    if (log === 'torn' && !open) await needRoom(RENEWED);
    return within(ANSWERS_WITHIN, database().then(run));
  };
  try {
    return await attempt();
  } catch (thrown) {
    const { name } = (thrown ?? {}) as { name?: unknown };
    if (name === 'TimeoutError') brokenOff();
    if (!['InvalidStateError', 'UnknownError', 'AbortError'].includes(String(name))) throw thrown;
    brokenOff();
    return attempt();
  }
}

export function loadProject(id: string): Promise<StoredProject | undefined> {
  return withDatabase((db) => db.get('projects', id));
}

/** The journal of a project's last tab, in order. */
export function loadJournal(stored: StoredProject): Promise<JournalLine[]> {
  const { id, holder = '' } = stored;
  return withDatabase((db) =>
    db.getAll('journal', IDBKeyRange.bound([id, holder, 0], [id, holder, Number.MAX_SAFE_INTEGER])),
  );
}

/**
 * Writes one project whole, to the disk itself, and drops the part of its journal that it contains.
 * @param takes the project is taken from any other tab
 * @throws TakenOver when another tab has taken it
 */
export async function saveProject(stored: StoredProject, takes = false): Promise<void> {
  await withDatabase((db) => putProject(db, stored, takes));
  if (log === 'torn') {
    await withDatabase(renewLog);
    log = 'whole';
  } else if (log === 'unknown') {
    log = 'whole';
    void getReady();
  }
}

/** Readies the store for a disk that may become full: nobody waits for it, and where there is no room it is left. */
async function getReady(): Promise<void> {
  try {
    await needRoom(RENEWED);
    await withDatabase(renewLog);
    await keepReserve();
  } catch {
    // what was saved is saved without it
  }
}

async function putProject(db: Database, stored: StoredProject, takes: boolean): Promise<void> {
  const transaction = db.transaction(['projects', 'journal'], 'readwrite', { durability: 'strict' });
  const done = settled(transaction.done);
  const projects = transaction.objectStore('projects');
  const { id, holder, saved = 0, preview, ...rest } = stored;
  const before = await projects.get(id);
  if (!takes && before?.holder !== undefined && holder !== undefined && before.holder !== holder) {
    transaction.abort();
    await done;
    throw new TakenOver();
  }
  // one that was given up as not answering may still be carried out, after a later one
  if (!takes && before?.holder === holder && (before?.saved ?? 0) > saved) return void (await done);
  const kept = preview ?? before?.preview;
  const lines = transaction.objectStore('journal');
  await Promise.all([
    projects.put({
      id,
      ...rest,
      saved,
      ...(holder === undefined ? {} : { holder }),
      ...(kept ? { preview: kept } : {}),
    }),
    takes || holder === undefined
      ? lines.delete(IDBKeyRange.bound([id], [id, []]))
      : lines.delete(IDBKeyRange.bound([id, holder, 0], [id, holder, saved])),
  ]);
  const failure = await done;
  if (failure) throw failure.thrown;
}

/** What a transaction fails with; undefined when it is done. */
function settled(done: Promise<void>): Promise<{ readonly thrown: Error } | undefined> {
  return done.then(
    () => undefined,
    // a browser's own exceptions are not errors of every realm
    (thrown: unknown) => ({ thrown: (thrown ?? new Error('the store gave up')) as Error }),
  );
}

/**
 * Hands a line of the journal to the browser at once: it is on its way when this returns, whatever becomes of the page. A line that could
 * not be written is no loss while the page lives, since the whole state follows.
 */
export function writeJournal(line: JournalLine): void {
  try {
    // behind a hole it would not be read again
    const transaction =
      log === 'torn' ? undefined : standing?.transaction('journal', 'readwrite', { durability: 'relaxed' });
    if (!transaction) return;
    transaction.store.put(line).catch(() => undefined);
    transaction.done.catch(() => undefined);
    transaction.commit();
  } catch {
    brokenOff();
  }
}

/** An original of a frame. */
export async function loadOriginal(hash: string): Promise<Uint8Array | undefined> {
  const kept = await (await fileStore('originals')).read(hash);
  return kept ?? withDatabase((db) => db.get('originals', hash));
}

/** Whether an original is known to be in the browser: a database that does not answer has none. */
export async function hasOriginal(hash: string): Promise<boolean> {
  if (await (await fileStore('originals')).has(hash)) return true;
  return withDatabase(async (db) => (await db.count('originals', hash)) > 0).catch(() => false);
}

export async function saveOriginal(hash: string, bytes: Uint8Array): Promise<void> {
  await (await fileStore('originals')).write(hash, bytes);
}

/** A name for anything, as a file of its own. */
const recipeFile = (id: string): Promise<string> => sha256(new TextEncoder().encode(id));

/** What is kept of a project a second time, as a file: all but what lies elsewhere anyway. */
export type MirroredProject = Pick<
  StoredProject,
  'id' | 'changed' | 'project' | 'session' | 'past' | 'future'
>;

/** Keeps a project a second time, as a file, for the day on which the browser gives its database up. */
export async function mirrorProject(stored: MirroredProject): Promise<void> {
  const { id, changed, project, session, past, future } = stored;
  const kept: MirroredProject = { id, changed, project, session, past, future };
  const text = new TextEncoder().encode(JSON.stringify(kept));
  await (await fileStore('recipes')).write(await recipeFile(id), text);
}

/** A project as it was kept a second time, unchecked; undefined where there is none that can be read. */
export async function mirroredProject(id: string): Promise<MirroredProject | undefined> {
  try {
    const kept = readMirror(await (await fileStore('recipes')).read(await recipeFile(id)));
    return kept?.id === id ? kept : undefined;
  } catch {
    return undefined;
  }
}

function readMirror(bytes: Uint8Array | undefined): MirroredProject | undefined {
  if (!bytes) return undefined;
  const kept = JSON.parse(new TextDecoder().decode(bytes)) as MirroredProject | Project;
  if ('project' in kept) return kept;
  // earlier builds kept the recipe alone
  return { id: kept.id, changed: kept.changed, project: kept, session: START, past: [], future: [] };
}

/** Projects that are kept as files and not in the database any more go back there. */
async function restoreProjects(known: ReadonlySet<string>): Promise<void> {
  const recipes = await fileStore('recipes');
  const names = new Set(await Promise.all([...known].map(recipeFile)));
  for (const { name } of await recipes.list()) {
    if (names.has(name)) continue;
    try {
      const kept = readMirror(await recipes.read(name));
      if (kept && (await recipeFile(kept.id)) === name) await saveProject(kept);
    } catch {
      // one that cannot be read is no reason to lose the others
    }
  }
}

/** A project on the shelf; a broken one has a sentence in place of what it shows. */
export interface ShelfCard {
  readonly id: string;
  readonly title: string;
  readonly frames: number;
  /** ISO 8601 */
  readonly changed: string;
  readonly preview?: Uint8Array;
  readonly broken?: string;
}

/** Projects on the shelf, last changed first; each is read for itself, so that a broken one never hides the others. */
export async function shelfCards(): Promise<ShelfCard[]> {
  const keysOf = (): Promise<string[]> => withDatabase((db) => db.getAllKeys('projects'));
  let keys = await keysOf();
  await restoreProjects(new Set(keys)).catch(() => undefined);
  keys = await keysOf();
  const cards = await Promise.all(
    keys.map(async (id) => {
      try {
        const [stored, preview] = await withDatabase((db) =>
          Promise.all([db.get('projects', id), db.get('previews', id)]),
        );
        return shelfCard(id, stored, preview);
      } catch {
        return shelfCard(id, undefined, undefined);
      }
    }),
  );
  return cards.sort((a, b) => (a.changed < b.changed ? 1 : a.changed > b.changed ? -1 : 0));
}

/** What the shelf shows of a stored project, whatever it is. */
export function shelfCard(id: string, stored: unknown, preview: unknown): ShelfCard {
  const { project, preview: older } = (stored ?? {}) as { project?: unknown; preview?: unknown };
  const { title, frames, changed, log } = (project ?? {}) as Record<string, unknown>;
  const picture = [preview, older].find((p): p is Uint8Array => p instanceof Uint8Array);
  const name = typeof title === 'string' ? plainText(title, 200) : '';
  const dated = typeof changed === 'string' && isRealDate(changed);
  const whole = typeof title === 'string' && Array.isArray(frames) && Array.isArray(log) && dated;
  return {
    id,
    title: name || 'A project without a title',
    frames: Array.isArray(frames) ? frames.length : 0,
    changed: dated ? changed : '',
    ...(picture ? { preview: picture } : {}),
    ...(whole
      ? {}
      : {
          broken:
            'This project is damaged and cannot be opened. Export what is there, or take it off the shelf.',
        }),
  };
}

/** All that is stored of every project, unread; for what looks through them. */
export function storedProjects(): Promise<StoredProject[]> {
  return withDatabase((db) => db.getAll('projects'));
}

const HASH = /[0-9a-f]{64}/g;

/** Hashes of all originals that a project names, in its frames or in steps that can be taken back or done again. */
export function namedOriginals(stored: unknown): Set<string> {
  const { project, past, future } = (stored ?? {}) as {
    project?: { frames?: unknown };
    past?: unknown;
    future?: unknown;
  };
  return new Set(JSON.stringify([project?.frames, past, future]).match(HASH) ?? []);
}

/** Takes originals away that no project names. */
export async function removeUnused(hashes: Iterable<string>): Promise<void> {
  const wanted = new Set(hashes);
  if (wanted.size === 0) return;
  const used = new Set((await storedProjects()).flatMap((p) => [...namedOriginals(p)]));
  // and what was added a moment ago
  const lines = JSON.stringify(await withDatabase((db) => db.getAll('journal')));
  const files = await fileStore('originals');
  for (const hash of wanted) {
    if (used.has(hash) || lines.includes(hash)) continue;
    await files.remove(hash);
    await withDatabase((db) => db.delete('originals', hash));
  }
}

/** milliseconds that an original may lie about before a project names it: a drop may be under way in another tab */
const DAY = 86_400_000;

/** Takes away what a tab that was killed while it read files has left behind. */
export async function removeOrphans(): Promise<void> {
  const before = Date.now() - DAY;
  const old = (await (await fileStore('originals')).list()).filter((f) => f.written < before);
  await removeUnused(old.map((f) => f.name));
}

/** Takes a project off the shelf, and the originals that no other project uses. */
export async function deleteProject(id: string): Promise<void> {
  await makeRoom(2 ** 20);
  await (await fileStore('recipes')).remove(await recipeFile(id));
  const gone = await withDatabase(async (db) => {
    const transaction = db.transaction(['projects', 'previews', 'journal'], 'readwrite');
    const projects = transaction.objectStore('projects');
    const stored = await projects.get(id).catch(() => undefined);
    await projects.delete(id);
    await transaction.objectStore('previews').delete(id);
    await transaction.objectStore('journal').delete(IDBKeyRange.bound([id], [id, []]));
    await transaction.done;
    return stored;
  });
  // steps that can still be taken back may hold frames too, so all hashes named anywhere count
  await removeUnused(namedOriginals(gone));
}

export async function loadPreview(id: string): Promise<Uint8Array | undefined> {
  return withDatabase(
    async (db) => (await db.get('previews', id)) ?? (await db.get('projects', id))?.preview,
  );
}

/** Replaces the preview of a project. */
export async function savePreview(id: string, preview: Uint8Array): Promise<void> {
  await withDatabase((db) => db.put('previews', preview, id));
}
