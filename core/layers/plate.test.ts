import { describe, expect, test } from '@jest/globals';
import { PLAIN_MASK } from '../mask/mask';
import { cutOut } from '../raster/cutOut';
import { type EncodedImage, halveImage } from '../raster/encodedImage';
import { IDENTITY, transform } from '../raster/matrix3';
import { composite, type PlacedLayer, sourceAt } from './composite';
import { firstPlace, plateMatrix } from './platePlace';

const PICTURE = { width: 900, height: 600 };
const PLATE = { width: 200, height: 100 };

describe('where a cut-out lies', () => {
  const place = { x: 0.5, y: 0.25, size: 0.4, turn: 0, mirrored: false };

  test('its middle lies at the place, its long edge has the size', () => {
    const m = plateMatrix(place, PLATE, PICTURE);
    const near = (got: readonly number[], x: number, y: number): void => {
      expect(got[0]).toBeCloseTo(x, 6);
      expect(got[1]).toBeCloseTo(y, 6);
    };
    near(transform(m, 0.5 * 900 - 0.5, 0.25 * 900 - 0.5), 99.5, 49.5);
    // 360 pixels of the picture from its left edge to its right one
    near(transform(m, 450 - 180 - 0.5, 224.5), -0.5, 49.5);
    near(transform(m, 450 + 180 - 0.5, 224.5), 199.5, 49.5);
  });

  test('turned clockwise, its right side points down; mirrored, its left and right change places', () => {
    const turned = plateMatrix({ ...place, turn: 90 }, PLATE, PICTURE);
    const [u] = transform(turned, 449.5, 224.5 + 90);
    expect(u).toBeCloseTo(99.5 + 50, 6);
    const mirrored = plateMatrix({ ...place, mirrored: true }, PLATE, PICTURE);
    expect(transform(mirrored, 449.5 + 90, 224.5)[0]).toBeCloseTo(99.5 - 50, 6);
  });

  test('arrives at its own size in the middle, a large one smaller, the next one aside', () => {
    expect(firstPlace(PLATE, PICTURE, 0)).toMatchObject({ x: 0.5, y: 1 / 3, size: 200 / 900 });
    expect(firstPlace({ width: 3000, height: 400 }, PICTURE, 0).size).toBe(0.6);
    expect(firstPlace(PLATE, PICTURE, 1).x).toBeGreaterThan(0.5);
    expect(firstPlace(PLATE, PICTURE, 2).x).toBeLessThan(0.5);
  });
});

/** A white disc on black that a mask has cut out; the black must never be seen. */
function disc(size: number): EncodedImage {
  const data = new Uint8Array(size * size * 3);
  const alpha = new Uint8Array(size * size);
  for (let i = 0; i < size * size; i++) {
    const r = Math.hypot((i % size) - (size - 1) / 2, Math.floor(i / size) - (size - 1) / 2);
    const a = Math.max(0, Math.min(1, size * 0.4 - r + 0.5));
    alpha[i] = Math.round(255 * a);
    if (a > 0) data.fill(230, 3 * i, 3 * i + 3);
  }
  return cutOut({ width: size, height: size, white: 255, data }, alpha);
}

describe('a cut-out over a picture', () => {
  const flat = (v: number): EncodedImage => ({
    width: 90,
    height: 60,
    white: 255,
    data: new Uint8Array(90 * 60 * 3).fill(v),
  });
  const layer = (levels: EncodedImage[], matrix = IDENTITY): PlacedLayer => ({
    levels,
    matrix,
    opacity: 1,
    blend: 'normal',
    stops: 0,
    mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
    adjusts: [],
  });
  const levelsOf = (image: EncodedImage): EncodedImage[] => {
    const levels = [image];
    for (let k = 0; k < 4; k++) levels.push(halveImage(levels[k]));
    return levels;
  };
  const whole = { x: 0, y: 0, width: 90, height: 60 };

  test.each([['bilinear'], ['lanczos']] as const)('has no dark rim (%s)', (kernel) => {
    const place = { x: 0.5, y: 1 / 3, size: 0.4, turn: 12, mirrored: false };
    const plate = disc(160);
    const matrix = plateMatrix(place, plate, whole);
    const [plane] = composite([layer([flat(200)]), layer(levelsOf(plate), matrix)], 90, 0, whole, kernel);
    // a light disc on a light ground: nothing between 200 and 230 may be darker than both
    expect(Math.min(...plane) * 255).toBeGreaterThan(kernel === 'bilinear' ? 199.4 : 195);
    expect(plane[30 * 90 + 45] * 255).toBeCloseTo(230, 0);
    expect(plane[30 * 90 + 5] * 255).toBeCloseTo(200, 0);
  });

  test('covers the area that its opacity says', () => {
    const plate = disc(160);
    const matrix = plateMatrix({ x: 0.5, y: 1 / 3, size: 0.4, turn: 0, mirrored: false }, plate, whole);
    const [plane] = composite([layer([flat(0)]), layer(levelsOf(plate), matrix)], 90, 0, whole, 'bilinear');
    const covered = plane.reduce((sum, v) => sum + v / (230 / 255), 0);
    // a radius of 0.4 · 36 pixels
    expect(covered / (Math.PI * 14.4 ** 2)).toBeCloseTo(1, 1);
  });

  test('drawn much smaller it is taken from a level that has its size', () => {
    const levels = levelsOf(disc(160));
    const matrix = plateMatrix({ x: 0.5, y: 1 / 3, size: 0.2, turn: 0, mirrored: false }, levels[0], whole);
    const { image, matrix: own } = sourceAt({ levels, matrix }, 0);
    // 160 pixels shown as 18: three halvings leave 20
    expect(image.width).toBe(20);
    expect(transform(own, 44.5, 29.5)[0]).toBeCloseTo(9.5, 6);
  });
});
