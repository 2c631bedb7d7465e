import 'fake-indexeddb/auto';
import { describe, expect, test } from '@jest/globals';
import { sha256 } from '@/core/codecs/sha256';
import { fileStore } from './fileStore';
import { originalsOf, type OriginalStore } from './originals';
import { roomProblem } from './room';
import { keepingProblem, savingProblem } from './savingProblem';

const bytes = new TextEncoder().encode('the original of a heron');

/** A store in a map that may have no room, or lose everything. */
function mapped(
  kept = new Map<string, Uint8Array>(),
): OriginalStore & { full: boolean; kept: Map<string, Uint8Array> } {
  const store = {
    ...{ full: false, kept },
    save: (hash: string, given: Uint8Array) =>
      store.full
        ? Promise.reject(new DOMException('full', 'QuotaExceededError'))
        : Promise.resolve(void kept.set(hash, given)),
    load: (hash: string) => Promise.resolve(kept.get(hash)),
    has: (hash: string) => Promise.resolve(kept.has(hash)),
    remove: (hashes: readonly string[]) => Promise.resolve(hashes.forEach((h) => kept.delete(h))),
  };
  return store;
}

describe('originals', () => {
  test('what the browser has no room for stays in the page, and is kept once there is', async () => {
    const store = mapped();
    const originals = originalsOf(store);
    const hash = await sha256(bytes);
    store.full = true;
    await expect(originals.keep(hash, bytes)).rejects.toMatchObject({ name: 'QuotaExceededError' });
    expect(await originals.load(hash)).toBe(bytes);
    expect(await originals.mend([hash])).toEqual([hash]);
    store.full = false;
    expect(await originals.mend([hash])).toEqual([]);
    expect(store.kept.get(hash)).toBe(bytes);
  });

  test('a store that was emptied is filled again from the files, as long as they are the same', async () => {
    const store = mapped();
    const originals = originalsOf(store);
    const hash = await sha256(bytes);
    let file = bytes;
    await originals.keep(hash, bytes, () => Promise.resolve(file));
    store.kept.clear();
    expect(await originals.load(hash)).toBe(bytes);
    expect(await originals.mend([hash])).toEqual([]);
    store.kept.clear();
    file = new TextEncoder().encode('another picture by now');
    expect(await originals.load(hash)).toBeUndefined();
    expect(await originals.mend([hash])).toEqual([hash]);
  });

  test('what was read once is in the page: it answers when the store is gone, or never answers, and fills it again', async () => {
    const store = mapped();
    const hash = await sha256(bytes);
    await store.save(hash, bytes);
    let answers = true;
    const load = (h: string) => (answers ? store.load(h) : new Promise<undefined>(() => undefined));
    // a project that was opened: nothing was dropped in this page's life
    const originals = originalsOf({ ...store, load });
    expect(await originals.load(hash)).toEqual(bytes);
    store.kept.clear();
    expect(await originals.mend([hash])).toEqual([]);
    expect(store.kept.get(hash)).toEqual(bytes);
    answers = false;
    expect(await originals.load(hash)).toEqual(bytes);
  });

  test('a store that fails is not taken for one that has lost a file', async () => {
    const store = mapped();
    const hash = await sha256(bytes);
    const failing = originalsOf({
      ...store,
      load: () => Promise.reject(new DOMException('', 'UnknownError')),
    });
    await expect(failing.load(hash)).rejects.toMatchObject({ name: 'UnknownError' });
    expect(await originalsOf(store).load(hash)).toBeUndefined();
  });

  test('a file that is being written again is not written a second time', async () => {
    const store = mapped();
    const hash = await sha256(bytes);
    let written = 0;
    const save = async (h: string, given: Uint8Array): Promise<void> => {
      written++;
      await new Promise((done) => setTimeout(done, 5));
      await store.save(h, given);
    };
    const originals = originalsOf({ ...store, save });
    await originals.keep(hash, bytes, () => Promise.resolve(bytes));
    store.kept.clear();
    expect(await Promise.all([originals.mend([hash]), originals.mend([hash])])).toEqual([[], []]);
    expect(written).toBe(2);
  });

  test('a file that was dropped is read again when the store does not answer', async () => {
    const store = mapped();
    const hash = await sha256(bytes);
    const originals = originalsOf({ ...store, load: () => new Promise<undefined>(() => undefined) });
    await originals.keep(hash, bytes, () => Promise.resolve(bytes));
    expect(await originals.load(hash)).toEqual(bytes);
  });

  test('files of their own are written, found, listed and taken away by name', async () => {
    const files = await fileStore('originals');
    await files.write('a', bytes);
    expect(await files.has('a')).toBe(true);
    expect([...((await files.read('a')) ?? [])]).toEqual([...bytes]);
    expect((await files.list()).map((f) => f.name)).toEqual(['a']);
    await files.remove('a');
    expect(await files.read('a')).toBeUndefined();
  });
});

describe('every failure has its own sentence', () => {
  test.each<[unknown, RegExp]>([
    [new DOMException('', 'QuotaExceededError'), /no room left to save/],
    [new DOMException('Connection is closing: FILE_ERROR_NO_SPACE', 'UnknownError'), /no room left to save/],
    [
      new DOMException('Internal error opening backing store', 'UnknownError'),
      /store does not answer \(Internal error/,
    ],
    [
      new DOMException('could not be cloned', 'DataCloneError'),
      /The last step cannot be written \(could not be cloned\)/,
    ],
    [new DOMException('higher version', 'VersionError'), /Another version of Marsh/],
    [new Error('odd'), /could not be saved \(odd\)/],
    ['text', /could not be saved \(text\)/],
  ])('%s', (thrown, says) => expect(savingProblem(thrown)).toMatch(says));

  test('room is told before a drop, where there is too little', () => {
    expect(roomProblem(300e6, 120e6)).toMatch(/need 300 MB and the browser has room for 120 MB/);
    expect(roomProblem(100e6, 120e6)).toBeUndefined();
    expect(roomProblem(100e6, undefined)).toBeUndefined();
    expect(keepingProblem(['a.jpg', 'b.jpg'], new DOMException('', 'QuotaExceededError'))).toMatch(
      /“a\.jpg” and 1 more could not be kept by the browser: there is no room left/,
    );
  });

  test('a store that does not say what it has is written to again', async () => {
    const bytes = Uint8Array.of(4, 5, 6);
    const hash = await sha256(bytes);
    const kept = new Map<string, Uint8Array>();
    const originals = originalsOf({
      save: (name, b) => Promise.resolve(void kept.set(name, b)),
      load: () => Promise.reject(new Error('no answer')),
      has: () => Promise.reject(new Error('no answer')),
      remove: () => Promise.resolve(),
    });
    await originals.keep(hash, bytes, () => Promise.resolve(bytes));
    kept.clear();
    expect(await originals.mend([hash])).toEqual([]);
    expect(kept.get(hash)).toEqual(bytes);
  });
});
