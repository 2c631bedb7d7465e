import { needRoom, needRoomAgain } from './diskRoom';
import { type FileStore } from './storedFiles';

const isAbsent = (thrown: unknown): boolean =>
  thrown instanceof DOMException && thrown.name === 'NotFoundError';

/** names that together are longer than a block of the log (LevelDB: 32 KB), each as long as a name may be */
const FILLINGS = Array.from({ length: 150 }, (_, k) => `filling-${k}-`.padEnd(240, 'f'));
/** bytes that a file system must have beside what is written, lest it breaks in its own book-keeping */
const BESIDE = 2 ** 20;
/** bytes that it must have to take a name away, or to be opened */
const A_LITTLE = 2 ** 16;

/**
 * Gets past a hole that a full disk has left in the log of the browser's names: the rest of its block is not read when the browser starts
 * again, and files that were named there are gone (seen in Chromium 156). Names that nobody needs fill the block.
 */
async function passHole(folder: FileSystemDirectoryHandle): Promise<void> {
  const fillings = await folder.getDirectoryHandle('fillings', { create: true });
  for (const name of FILLINGS) await fillings.getFileHandle(name, { create: true });
  await folder.removeEntry('fillings', { recursive: true });
}

/**
 * Files in a directory of the origin's private file system (WHATWG File System). A file is written beside and put in its place when it
 * is whole. Nothing is written while the disk is full: a browser may give up all files when its book-keeping breaks off.
 * @returns undefined where the browser has none, or none that can be written so
 */
export async function privateFiles(folder: string): Promise<FileStore | undefined> {
  if (typeof FileSystemFileHandle === 'undefined' || !('createWritable' in FileSystemFileHandle.prototype))
    return undefined;
  const open = async (): Promise<FileSystemDirectoryHandle> =>
    (await navigator.storage.getDirectory()).getDirectoryHandle(folder, { create: true });
  // a write broke off: the browser's list of names may have a hole in its log
  let torn = false;
  try {
    await open();
  } catch (thrown) {
    // it has one, and no room to open it
    if (thrown instanceof DOMException && thrown.name === 'QuotaExceededError') throw thrown;
    // a private window may have none
    return undefined;
  }
  const found = async (name: string): Promise<File | undefined> => {
    await needRoomAgain(A_LITTLE);
    try {
      const file = await (await (await open()).getFileHandle(name)).getFile();
      // one that was begun and never finished is empty
      return file.size > 0 ? file : undefined;
    } catch (thrown) {
      if (isAbsent(thrown)) return undefined;
      throw thrown;
    }
  };
  const remove = async (name: string): Promise<void> => {
    await needRoom(A_LITTLE);
    try {
      await (await open()).removeEntry(name);
    } catch (thrown) {
      if (!isAbsent(thrown)) throw thrown;
    }
  };
  return {
    write: async (name, bytes) => {
      await needRoom(BESIDE);
      try {
        if (torn) await passHole(await open());
        torn = false;
        const handle = await (await open()).getFileHandle(name, { create: true });
        const writing = await handle.createWritable();
        // shared memory cannot be written
        await writing.write(
          bytes.buffer instanceof ArrayBuffer ? (bytes as Uint8Array<ArrayBuffer>) : bytes.slice(),
        );
        await writing.close();
      } catch (thrown) {
        torn = true;
        if (!(await found(name).catch(() => undefined))) await remove(name).catch(() => undefined);
        throw thrown;
      }
    },
    read: async (name) => {
      const whole = async (): Promise<Uint8Array<ArrayBuffer> | undefined> => {
        const file = await found(name);
        return file && new Uint8Array(await file.arrayBuffer());
      };
      // one that was put in its place between the two steps is another file by then
      return whole().catch(whole);
    },
    has: async (name) => (await found(name)) !== undefined,
    remove,
    list: async () => {
      await needRoomAgain(A_LITTLE);
      const all: { name: string; written: number }[] = [];
      for await (const [name, handle] of (await open()).entries())
        if (handle.kind === 'file') all.push({ name, written: (await handle.getFile()).lastModified });
      return all;
    },
  };
}
