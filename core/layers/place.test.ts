import { describe, expect, test } from '@jest/globals';
import { sourceAt } from '../graph/sample/samplePicture';
import { cutOut } from '../raster/cutOut';
import { type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { transform } from '../raster/matrix3';
import { drawPicture } from '../view/drawPicture';
import { plainWorld } from '../view/followGraph';
import { flat } from '@/tests/paint';
import { samplePlate, sceneOf, sizedProject } from '@/tests/sampleScene';
import { PLAIN_LAYER } from './layer';
import { firstPlace, type Place, placedCorners, placeMatrix } from './place';

const PICTURE = { width: 900, height: 600 };
const PLATE = { width: 200, height: 100 };

describe('where a cut-out lies', () => {
  const place = { x: 0.5, y: 0.25, size: 0.4, turn: 0, mirrored: false };

  test('its middle lies at the place, its long edge has the size', () => {
    const m = placeMatrix(place, PLATE, PICTURE);
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
    const turned = placeMatrix({ ...place, turn: 90 }, PLATE, PICTURE);
    const [u] = transform(turned, 449.5, 224.5 + 90);
    expect(u).toBeCloseTo(99.5 + 50, 6);
    const mirrored = placeMatrix({ ...place, mirrored: true }, PLATE, PICTURE);
    expect(transform(mirrored, 449.5 + 90, 224.5)[0]).toBeCloseTo(99.5 - 50, 6);
  });

  test('arrives at its own size in the middle, a large one smaller, the next one aside', () => {
    expect(firstPlace(PLATE, PICTURE, 0)).toMatchObject({ x: 0.5, y: 1 / 3, size: 200 / 900 });
    expect(firstPlace({ width: 3000, height: 400 }, PICTURE, 0).size).toBe(0.6);
    expect(firstPlace(PLATE, PICTURE, 1).x).toBeGreaterThan(0.5);
    expect(firstPlace(PLATE, PICTURE, 2).x).toBeLessThan(0.5);
  });
});

describe('corners that are pulled', () => {
  const place: Place = { x: 0.5, y: 0.25, size: 0.4, turn: 20, mirrored: false };

  test('lie where they were pulled to, and so does everything between', () => {
    const corners = [
      [0.01, 0.02],
      [-0.03, 0],
      [0, 0.05],
      [0.02, -0.01],
    ] as const;
    const before = placedCorners(place, PLATE, PICTURE);
    const after = placedCorners({ ...place, corners }, PLATE, PICTURE);
    after.forEach(([x, y], i) => {
      expect(x).toBeCloseTo(before[i][0] + 900 * corners[i][0], 4);
      expect(y).toBeCloseTo(before[i][1] + 900 * corners[i][1], 4);
    });
  });

  test('corners on one line are no place: it lies as it was', () => {
    const line = [0, 1, 2, 3].map((i) => {
      const [x, y] = placedCorners(place, PLATE, PICTURE)[i];
      return [(100 + 10 * i - x) / 900, (100 - y) / 900] as const;
    });
    const corners = line as unknown as Place['corners'];
    expect(placeMatrix({ ...place, corners }, PLATE, PICTURE)).toEqual(placeMatrix(place, PLATE, PICTURE));
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
  const [W, H] = [90, 60];
  const whole = { x: 0, y: 0, width: W, height: H };
  const drawn = (ground: number, place: Place, kernel: 'bilinear' | 'lanczos'): Float32Array => {
    const plate = samplePlate('disc', 160, 160);
    const project = sizedProject(W, H);
    const { scene } = sceneOf(
      {
        ...project,
        frames: [...project.frames, plate],
        edits: [],
        layers: [
          ...project.layers,
          {
            ...PLAIN_LAYER,
            id: 'p',
            name: 'p',
            kind: 'picture',
            source: { kind: 'plate', frame: plate.id },
            place,
          },
        ],
      },
      { merge: flat(W, H, ground / 255), frames: { disc: disc(160) } },
    );
    const { picture } = scene;
    if (!picture) throw new Error('no picture');
    return drawPicture(picture, picture.result, 0, whole, kernel, plainWorld(picture.made))[0];
  };

  test.each([['bilinear'], ['lanczos']] as const)('has no dark rim (%s)', (kernel) => {
    const place = { x: 0.5, y: 1 / 3, size: 0.4, turn: 12, mirrored: false };
    const plane = drawn(200, place, kernel);
    // a light disc on a light ground: nothing between 200 and 230 may be darker than both
    expect(Math.min(...plane) * 255).toBeGreaterThan(kernel === 'bilinear' ? 199.4 : 195);
    expect(plane[30 * W + 45] * 255).toBeCloseTo(230, 0);
    expect(plane[30 * W + 5] * 255).toBeCloseTo(200, 0);
  });

  test('covers the area that its opacity says', () => {
    const plane = drawn(0, { x: 0.5, y: 1 / 3, size: 0.4, turn: 0, mirrored: false }, 'bilinear');
    const covered = plane.reduce((sum, v) => sum + v / (230 / 255), 0);
    // a radius of 0.4 · 36 pixels
    expect(covered / (Math.PI * 14.4 ** 2)).toBeCloseTo(1, 1);
  });

  test('drawn much smaller it is taken from a level that has its size', () => {
    const levels = [disc(160)];
    for (let k = 0; k < 4; k++) levels.push(halveImage(levels[k]));
    const matrix = placeMatrix({ x: 0.5, y: 1 / 3, size: 0.2, turn: 0, mirrored: false }, levels[0], whole);
    const { image, map } = sourceAt(levels, matrix, 0);
    // 160 pixels shown as 18: three halvings leave 20
    expect(image.width).toBe(20);
    expect(transform(map, 44.5, 29.5)[0]).toBeCloseTo(9.5, 6);
  });
});
