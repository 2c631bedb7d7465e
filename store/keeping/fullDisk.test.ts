import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { sampleProject } from '@/tests/sampleProject';
import { database, loadProject, saveProject } from '../database';
import { START } from '../session';
import { diskTakes, keepReserve, makeRoom, needRoom } from './diskRoom';
import { privateFiles } from './privateFiles';
import { renewLog } from './renewLog';

/** A disk of which a browser says how full it is in the only way it does: its databases break off. */
function disk(bytes: number) {
  const state = { free: bytes, removed: 0, factory: new IDBFactory() };
  const full = () => Promise.reject(new DOMException('Internal error opening backing store', 'UnknownError'));
  const storageBuckets = {
    open: () => {
      const { factory } = state;
      if (state.free > 0) return Promise.resolve({ indexedDB: factory });
      return full();
    },
    delete: () => {
      state.removed++;
      state.free += 4 * 2 ** 20;
      state.factory = new IDBFactory();
      return Promise.resolve();
    },
  };
  return { state, storageBuckets };
}

const before = Object.getOwnPropertyDescriptor(globalThis, 'navigator');
const browserWith = (navigator: object) =>
  Object.defineProperty(globalThis, 'navigator', { value: navigator, configurable: true });
afterEach(() => {
  if (before) Object.defineProperty(globalThis, 'navigator', before);
  else Reflect.deleteProperty(globalThis, 'navigator');
});

const stored = (title: string) => {
  const project = { ...sampleProject(), id: 'full', title };
  return { id: 'full', changed: project.changed, project, session: START, past: [], future: [] };
};

describe('room on the disk', () => {
  test('is tried where nothing can be lost, and leaves nothing there', async () => {
    const { state, storageBuckets } = disk(1e9);
    browserWith({ storageBuckets });
    expect((await Promise.all([diskTakes(1e6), diskTakes(1e6)])).join()).toBe('true,true');
    await keepReserve();
    const room = await new Promise<IDBDatabase>((resolve) => {
      const request = state.factory.open('room', 1);
      request.onsuccess = () => resolve(request.result);
    });
    const count = (name: string) =>
      new Promise<number>((resolve) => {
        const request = room.transaction(name).objectStore(name).count();
        request.onsuccess = () => resolve(request.result);
      });
    expect([await count('probes'), await count('reserve')]).toEqual([0, 1]);
  });

  test('where there is none, what was held back is given, once', async () => {
    const { state, storageBuckets } = disk(0);
    browserWith({ storageBuckets });
    await expect(needRoom(1e5)).rejects.toMatchObject({ name: 'QuotaExceededError' });
    expect(state.removed).toBe(0);
    await makeRoom(1e5);
    expect(state.removed).toBe(1);
  });

  test('a browser without buckets, or with no more of them, is taken at its word', async () => {
    browserWith({});
    await expect(needRoom(1e12)).resolves.toBeUndefined();
    const open = () => Promise.reject(new DOMException('Too many buckets created.', 'QuotaExceededError'));
    browserWith({ storageBuckets: { open } });
    await expect(needRoom(1e12)).resolves.toBeUndefined();
  });

  test('a database that is broken says nothing about room: files are still written', async () => {
    const open = () => Promise.reject(new DOMException('Internal error.', 'UnknownError'));
    browserWith({ storageBuckets: { open } });
    await expect(needRoom(1e5)).resolves.toBeUndefined();
  });
});

test('files are neither written nor taken away while the disk is full', async () => {
  const { state, storageBuckets } = disk(0);
  const touched: string[] = [];
  const folder = {
    getFileHandle: (name: string) => {
      touched.push(name);
      const writable = { write: () => Promise.resolve(), close: () => Promise.resolve() };
      return Promise.resolve({ createWritable: () => Promise.resolve(writable) });
    },
    removeEntry: (name: string) => Promise.resolve(void touched.push(name)),
  };
  const storage = {
    getDirectory: () => Promise.resolve({ getDirectoryHandle: () => Promise.resolve(folder) }),
  };
  browserWith({ storageBuckets, storage });
  class FileSystemFileHandle {
    createWritable(): void {
      // what a browser that can write has
    }
  }
  Object.assign(globalThis, { FileSystemFileHandle });
  try {
    const files = await privateFiles('originals');
    await expect(files?.write('a', Uint8Array.of(1))).rejects.toMatchObject({ name: 'QuotaExceededError' });
    await expect(files?.remove('a')).rejects.toMatchObject({ name: 'QuotaExceededError' });
    // nor looked at, which may cost them all
    await expect(files?.has('a')).rejects.toMatchObject({ name: 'QuotaExceededError' });
    expect(touched).toEqual([]);
    state.free = 1e9;
    await files?.write('a', Uint8Array.of(1));
    await files?.remove('a');
    expect(touched).toEqual(['a', 'a']);
  } finally {
    Reflect.deleteProperty(globalThis, 'FileSystemFileHandle');
  }
});

describe('the log of a database that broke off', () => {
  /** Counts the bytes that are put into previews while something is done. */
  const filled = async (run: () => Promise<void>): Promise<number> => {
    let bytes = 0;
    const put = jest.spyOn(IDBObjectStore.prototype, 'put');
    await run().finally(() => {
      for (const [value] of put.mock.calls) if (value instanceof Uint8Array) bytes += value.length;
      put.mockRestore();
    });
    return bytes;
  };

  test('is renewed by more than it holds in memory, and nothing stays of that', async () => {
    expect(await filled(async () => renewLog(await database()))).toBeGreaterThan(4 * 2 ** 20);
    expect(await (await database()).count('previews')).toBe(0);
  });

  test('a project is not saved behind a hole: not before there is room, and not before the log is new', async () => {
    browserWith({});
    await saveProject(stored('first'));
    const { indexedDB } = globalThis;
    Object.assign(await database(), {
      transaction: () => {
        throw new DOMException('The database connection is closing.', 'InvalidStateError');
      },
    });
    Object.assign(globalThis, {
      indexedDB: {
        open: () => {
          throw new DOMException('Internal error opening backing store', 'UnknownError');
        },
      },
    });
    await expect(saveProject(stored('second'))).rejects.toMatchObject({ name: 'UnknownError' });
    Object.assign(globalThis, { indexedDB });
    const { state, storageBuckets } = disk(0);
    browserWith({ storageBuckets });
    await expect(saveProject(stored('third'))).rejects.toMatchObject({ name: 'QuotaExceededError' });
    state.free = 1e9;
    expect((await loadProject('full'))?.project.title).toBe('first');
    expect(await filled(() => saveProject(stored('fourth')))).toBeGreaterThan(4 * 2 ** 20);
    expect((await loadProject('full'))?.project.title).toBe('fourth');
    expect(await filled(() => saveProject(stored('fifth')))).toBe(0);
  });
});
