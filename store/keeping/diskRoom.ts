import { type DBSchema, type IDBPDatabase, wrap } from 'idb';

/** Storage buckets, where a browser has them (WICG Storage Buckets API); not yet in the library of types. */
interface Buckets {
  readonly open: (
    name: string,
    options: { readonly persisted: boolean },
  ) => Promise<{ readonly indexedDB: IDBFactory }>;
  readonly delete: (name: string) => Promise<void>;
}

interface RoomSchema extends DBSchema {
  probes: { key: string; value: Uint8Array };
  reserve: { key: string; value: Uint8Array };
}

const BUCKET = 'room';
/** bytes that are held back for the day on which the disk is full: what is taken away needs some room too */
const RESERVED = 4 * 2 ** 20;

function buckets(): Buckets | undefined {
  if (typeof navigator === 'undefined') return undefined;
  return (navigator as Navigator & { readonly storageBuckets?: Buckets }).storageBuckets;
}

/**
 * A database in which nothing can be lost, closed when it was used. A write that breaks off on a full disk may cost a browser all that lies
 * beside it, or the browser itself where it is one into the private file system (seen in Chromium 156).
 */
async function inRoom<T>(all: Buckets, run: (db: IDBPDatabase<RoomSchema>) => Promise<T>): Promise<T> {
  const request = (await all.open(BUCKET, { persisted: true })).indexedDB.open(BUCKET, 1);
  request.onupgradeneeded = () => {
    request.result.createObjectStore('probes');
    request.result.createObjectStore('reserve');
  };
  const db = wrap(request) as unknown as Promise<IDBPDatabase<RoomSchema>>;
  try {
    return await run(await db);
  } finally {
    await db.then(
      (opened) => opened.close(),
      () => undefined,
    );
  }
}

/**
 * Whether the disk takes so many bytes, tried where nothing can be lost: what a browser estimates is a share of the disk, full or not.
 * @returns true where it cannot be tried
 */
export async function diskTakes(bytes: number): Promise<boolean> {
  const all = buckets();
  if (!all) return true;
  // several may be tried at once
  const probe = crypto.randomUUID();
  try {
    await inRoom(all, async (db) => {
      const writing = db.transaction('probes', 'readwrite', { durability: 'strict' });
      await Promise.all([writing.store.put(new Uint8Array(bytes), probe), writing.done]);
      await db.delete('probes', probe);
    });
    return true;
  } catch (thrown) {
    return !(thrown instanceof DOMException && saysFull(thrown));
  }
}

/** the last time that room was needed there was none */
let full = false;

/** What a browser says of a full disk; a database that is broken otherwise says nothing about room, nor does one that allows no more buckets. */
function saysFull({ name, message }: DOMException): boolean {
  if (name === 'QuotaExceededError') return !/bucket/i.test(message);
  return /NO_SPACE|IO error|backing store|closing/i.test(message);
}

/** @throws QuotaExceededError when the disk does not take so many bytes */
export async function needRoom(bytes: number): Promise<void> {
  full = !(await diskTakes(bytes));
  if (full) throw new DOMException('the disk is full', 'QuotaExceededError');
}

/**
 * Before something is read: a browser may write a little as it opens what is read from, and give all of it up when that breaks off.
 * @throws QuotaExceededError when the disk was full and is still
 */
export async function needRoomAgain(bytes: number): Promise<void> {
  if (full) await needRoom(bytes);
}

/** Holds some room back. */
export async function keepReserve(): Promise<void> {
  const all = buckets();
  if (!all) return;
  await inRoom(all, async (db) => {
    // what a tab that was killed while it tried has left
    await db.clear('probes');
    if ((await db.count('reserve')) === 0) await db.put('reserve', new Uint8Array(RESERVED), 'reserve');
  });
}

/** Makes room for so many bytes, from what was held back when there is none other. */
export async function makeRoom(bytes: number): Promise<void> {
  if (await diskTakes(bytes)) return;
  await buckets()?.delete(BUCKET);
  await needRoom(bytes);
}
