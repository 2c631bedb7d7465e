import { expect, test } from '@jest/globals';
import { contentHash, stepHash } from './contentHash';

/** A list that counts how often it is looked at. */
function counted<T extends object>(list: T): { readonly list: T; readonly reads: () => number } {
  let reads = 0;
  const watched = new Proxy(list, {
    get: (target, key, receiver): unknown => {
      reads++;
      return Reflect.get(target, key, receiver);
    },
  });
  return { list: watched, reads: () => reads };
}

test('a value is named by what it says, whatever the order of its members', () => {
  expect(contentHash({ a: 1, b: [2, { c: 'x' }] })).toBe(contentHash({ b: [2, { c: 'x' }], a: 1 }));
  expect(contentHash({ a: 1, b: undefined })).toBe(contentHash({ a: 1 }));
  expect(contentHash({ a: 1 })).not.toBe(contentHash({ a: '1' }));
  // SHA-256 of "abc", FIPS 180-4 example, its first 128 bits
  expect(contentHash(new TextEncoder().encode('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223');
});

test('a step is named as the record of its parts', () => {
  for (const inputs of [[], ['00ff'], ['00ff', '', 'a0']]) {
    const settings = { stops: 0.5, curve: [1, 2] };
    expect(stepHash('exposure', 3, settings, inputs)).toBe(
      contentHash({ kind: 'exposure', version: 3, settings: contentHash(settings), inputs }),
    );
  }
});

test('the points of a stroke are read once, however often what lies beside them changes', () => {
  const points = counted(Array.from({ length: 2000 }, (_, i) => i / 7));
  const named = (exposure: number): string => contentHash({ exposure, strokes: [{ points: points.list }] });
  const first = named(0);
  const reads = points.reads();
  expect(reads).toBeGreaterThan(2000);
  expect(named(0.5)).not.toBe(first);
  expect(named(0)).toBe(first);
  // asked what kind of value it is, and no point
  expect(points.reads() - reads).toBeLessThan(20);
});
