import { beforeAll, expect, test } from '@jest/globals';
import { knownSet } from '@/tests/fitError';
import { millAtDusk } from '@/tests/knownScene';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type ReferenceWish } from '@/core/register/referenceSide';
import { registerPair } from '@/core/register/registerPair';
import { heldSide } from './heldSide';
import { newReferenceName } from './referenceName';

let images: readonly EncodedImage[];
beforeAll(() => {
  const wish = { width: 600, height: 400, stops: [0, 1, -1], shift: 12, turn: 0.4, gain: 0.9, seed: 5 };
  images = knownSet(millAtDusk(), wish).frames.map((f) => f.image);
});

const WISH: ReferenceWish = { channel: 'all', floor: 0.006, finest: 0 };

test('a side is made once for a name and a wish, and anew for another', () => {
  const side = heldSide();
  const own = side('a');
  const first = own(images[0], WISH);
  expect(own(images[0], WISH)).toBe(first);
  expect(side('a')(images[0], WISH)).toBe(first);
  expect(side('b')(images[0], WISH)).not.toBe(first);
  expect(own(images[0], { ...WISH, floor: 0.012 })).not.toBe(first);
  const region = { x: 100, y: 100, width: 200, height: 200 };
  const part = own(images[0], { ...WISH, region });
  expect(part).not.toBe(first);
  expect(own(images[0], { ...WISH, region: { ...region } })).toBe(part);
});

test('without a name nothing is kept', () => {
  const side = heldSide()(undefined);
  expect(side(images[0], WISH)).not.toBe(side(images[0], WISH));
});

test('a fit to a side that was kept is the same to the last digit', () => {
  const side = heldSide()('a');
  for (const [frame, stops] of [
    [1, 1],
    [2, -1],
    [1, 1],
  ]) {
    const options = { stops, motion: 'auto' } as const;
    const kept = registerPair(images[0], images[frame], options, side);
    expect(kept.fitted).toBe(true);
    expect(kept).toEqual(registerPair(images[0], images[frame], options));
  }
});

test('names are not given twice', () => {
  expect(new Set(Array.from({ length: 50 }, newReferenceName)).size).toBe(50);
});
