import { type FileStore } from './fileStore';

const isAbsent = (thrown: unknown): boolean =>
  thrown instanceof DOMException && thrown.name === 'NotFoundError';

/**
 * Files in the origin's private file system (WHATWG File System). A file is written beside and put in its place when it is whole.
 * @returns undefined where the browser has none, or none that can be written so
 */
export async function privateFiles(folder: string): Promise<FileStore | undefined> {
  if (typeof FileSystemFileHandle === 'undefined' || !('createWritable' in FileSystemFileHandle.prototype))
    return undefined;
  const open = async (): Promise<FileSystemDirectoryHandle> =>
    (await navigator.storage.getDirectory()).getDirectoryHandle(folder, { create: true });
  try {
    await open();
  } catch {
    // a private window may have none
    return undefined;
  }
  const found = async (name: string): Promise<File | undefined> => {
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
    try {
      await (await open()).removeEntry(name);
    } catch (thrown) {
      if (!isAbsent(thrown)) throw thrown;
    }
  };
  return {
    write: async (name, bytes) => {
      const handle = await (await open()).getFileHandle(name, { create: true });
      try {
        const writing = await handle.createWritable();
        // shared memory cannot be written
        await writing.write(
          bytes.buffer instanceof ArrayBuffer ? (bytes as Uint8Array<ArrayBuffer>) : bytes.slice(),
        );
        await writing.close();
      } catch (thrown) {
        if (!(await found(name).catch(() => undefined))) await remove(name).catch(() => undefined);
        throw thrown;
      }
    },
    read: async (name) => {
      const file = await found(name);
      return file && new Uint8Array(await file.arrayBuffer());
    },
    has: async (name) => (await found(name)) !== undefined,
    remove,
    list: async () => {
      const all: { name: string; written: number }[] = [];
      for await (const [name, handle] of (await open()).entries())
        if (handle.kind === 'file') all.push({ name, written: (await handle.getFile()).lastModified });
      return all;
    },
  };
}
