import { describe, expect, test } from '@jest/globals';
import { Matrix, solve } from 'ml-matrix';
import { randomSource } from '../../raster/random';
import { carveBorder } from './carveBorder';
import { type BorderedPicture, fillRectangle } from './fillRectangle';
import { leastSquares } from './leastSquares';
import { placeIn, pointAt, type QuadMesh } from './quadMesh';
import { placeOnMesh, type RectangleMesh } from './rectangleMesh';
import { straightSegments } from '../../raster/straightSegments';

const [W, H] = [240, 120];

/** A picture whose upper and lower border swing in and out, as joined frames leave it. @param drawn luma of a place */
function wavy(drawn: (x: number, y: number) => number, deep = 14): BorderedPicture {
  const luma = new Float32Array(W * H);
  const covered = new Uint8Array(W * H);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const edge = deep * (0.5 + 0.5 * Math.cos((2 * Math.PI * x) / W));
      if (y < edge || y > H - 1 - edge * 0.6) continue;
      covered[i] = 1;
      luma[i] = drawn(x, y);
    }
  return { width: W, height: H, luma, covered, projection: 'cylindrical', scale: 100, left: -120, top: -60 };
}

/** Thin dark lines on a mid tone, a little blurred by being drawn from their distance. */
const lined = (x: number, y: number): number => {
  const off = Math.min(
    Math.abs(y - 30 - 0.15 * x),
    Math.abs(y - 88),
    Math.abs(x - 60),
    Math.abs(x - 185 - 0.2 * y),
  );
  return 0.6 - 0.5 * Math.exp(-off * off);
};

const even = (across: number, down: number, columns: number, rows: number): QuadMesh => ({
  columns,
  rows,
  at: Float64Array.from({ length: 2 * columns * rows }, (_, k) => {
    const vertex = k >> 1;
    return k % 2 === 0
      ? ((vertex % columns) * across) / (columns - 1)
      : (Math.floor(vertex / columns) * down) / (rows - 1);
  }),
});

/** Where the rectangle's pixel (x, y) is drawn from, pixels of the picture. */
const drawnFrom = (mesh: RectangleMesh, { scale, left, top }: BorderedPicture, x: number, y: number) => {
  const [u, v] = placeOnMesh(mesh, (x + left) / scale, (y + top) / scale);
  return [u * scale - left, v * scale - top];
};

test('least squares agree with a general solver of linear equations, given unknowns kept', () => {
  // independent: ml-matrix, on the normal equations of the free unknowns
  const random = randomSource(5);
  const [unknownCount, count] = [14, 30];
  const coefficients = Float64Array.from({ length: 8 * count }, () => random() - 0.5);
  const unknowns = Int32Array.from({ length: 8 * count }, () => Math.floor(random() * unknownCount));
  const start = Float64Array.from({ length: unknownCount }, () => random());
  const given = Uint8Array.from({ length: unknownCount }, (_, i) => (i < 3 ? 1 : 0));
  const A = Matrix.zeros(count, unknownCount);
  coefficients.forEach((c, k) => {
    const [row, column] = [k >> 3, unknowns[k]];
    A.set(row, column, A.get(row, column) + c);
  });
  const free = A.subMatrix(0, count - 1, 3, unknownCount - 1);
  const known = A.subMatrix(0, count - 1, 0, 2).mmul(Matrix.columnVector(Array.from(start.subarray(0, 3))));
  const wanted = solve(free.transpose().mmul(free), free.transpose().mmul(known).mul(-1)).to1DArray();
  const found = leastSquares({ coefficients, unknowns }, start, given);
  expect(Array.from(found.subarray(0, 3))).toEqual(Array.from(start.subarray(0, 3)));
  wanted.forEach((v, i) => expect(found[3 + i]).toBeCloseTo(v, 2));
});

describe('carving', () => {
  test('fills the rectangle from covered pixels alone, in their order', () => {
    const { luma, covered } = wavy((x, y) => 0.5 + 0.2 * Math.sin(x * 0.3) * Math.cos(y * 0.2));
    const { fromX, fromY } = carveBorder(luma, covered, W, H);
    for (let i = 0; i < W * H; i++) expect(covered[fromY[i] * W + fromX[i]]).toBe(1);
    for (let x = 0; x < W; x++)
      for (let y = 1; y < H; y++) expect(fromY[y * W + x]).toBeGreaterThanOrEqual(fromY[(y - 1) * W + x]);
  });

  test('leaves a whole picture as it is', () => {
    const { fromX, fromY } = carveBorder(new Float32Array(W * H), new Uint8Array(W * H).fill(1), W, H);
    expect(fromX.every((x, i) => x === i % W)).toBe(true);
    expect(fromY.every((y, i) => y === Math.floor(i / W))).toBe(true);
  });

  test('stretches what is even and not what has detail', () => {
    // a chequered block in an even ground: the seams go round it
    const inBlock = (x: number, y: number): boolean => x > 90 && x < 150 && y > 40 && y < 80;
    const { luma, covered } = wavy((x, y) => (inBlock(x, y) ? 0.2 + 0.6 * ((x + y) % 2) : 0.5), 20);
    const { fromX, fromY } = carveBorder(luma, covered, W, H);
    let shown = 0;
    for (let i = 0; i < W * H; i++) if (inBlock(fromX[i], fromY[i])) shown++;
    const own = 59 * 39;
    expect(shown / own).toBeGreaterThan(0.99);
    expect(shown / own).toBeLessThan(1.02);
  });
});

describe('straight edges', () => {
  const all = new Uint8Array(W * H).fill(1);

  test('are found where they were drawn, to half a pixel', () => {
    const luma = Float32Array.from(
      { length: W * H },
      (_, i) =>
        // a bright half plane, its edge soft over a pixel
        1 / (1 + Math.exp(-2 * (Math.floor(i / W) - 30 - 0.25 * (i % W)))),
    );
    const found = straightSegments(luma, all, W, H, 40);
    expect(found).toHaveLength(1);
    const [{ x0, y0, x1, y1 }] = found;
    for (const [x, y] of [
      [x0, y0],
      [x1, y1],
    ])
      expect(Math.abs(y - 30 - 0.25 * x) / Math.hypot(1, 0.25)).toBeLessThan(0.5);
    expect(Math.hypot(x1 - x0, y1 - y0)).toBeGreaterThan(0.9 * Math.hypot(W, 0.25 * W));
  });

  test('are none in noise, none on a circle, and none along a missing border', () => {
    const random = randomSource(9);
    const noise = Float32Array.from({ length: W * H }, () => 0.5 + 0.2 * (random() - 0.5));
    expect(straightSegments(noise, all, W, H, 24)).toEqual([]);
    const circle = Float32Array.from({ length: W * H }, (_, i) =>
      Math.hypot((i % W) - 120, Math.floor(i / W) - 60) < 40 ? 0.8 : 0.2,
    );
    expect(straightSegments(circle, all, W, H, 40)).toEqual([]);
    const half = Uint8Array.from({ length: W * H }, (_, i) => (Math.floor(i / W) > 50 ? 1 : 0));
    const ground = Float32Array.from(half, (v) => 0.7 * v);
    expect(straightSegments(ground, half, W, H, 24)).toEqual([]);
  });
});

describe('a mesh', () => {
  test('finds the place of a point in cells of any shape', () => {
    const mesh = even(90, 60, 4, 3);
    const random = randomSource(3);
    const bent = { ...mesh, at: mesh.at.map((v) => v + 8 * (random() - 0.5)) };
    for (let n = 0; n < 40; n++) {
      const [x, y] = [15 + 60 * random(), 15 + 30 * random()];
      const place = placeIn(bent, x, y);
      expect(place).toBeDefined();
      const back = place && pointAt(bent, place);
      expect(back?.[0]).toBeCloseTo(x, 6);
      expect(back?.[1]).toBeCloseTo(y, 6);
    }
    expect(placeIn(bent, -30, 10)).toBeUndefined();
  });

  test('draws an even lattice as it is, and goes on beyond its border', () => {
    const at = even(2, 1, 5, 4).at;
    const mesh: RectangleMesh = {
      ...{ projection: 'cylindrical', left: 0, top: 0, across: 2, down: 1, columns: 5, rows: 4 },
      ...{ places: Array.from(at), stretch: 0, bow: 0 },
    };
    for (const [u, v] of [
      [0.3, 0.7],
      [1.99, 0.01],
      [-0.1, 0.5],
      [2.1, 1.1],
    ]) {
      const [x, y] = placeOnMesh(mesh, u, v);
      expect(x).toBeCloseTo(u, 9);
      expect(y).toBeCloseTo(v, 9);
    }
  });
});

describe('filling a rectangle', () => {
  test('shows nothing blank and loses next to nothing', () => {
    const picture = wavy(lined);
    const mesh = fillRectangle(picture);
    if (!mesh) throw new Error('no mesh');
    let blank = 0;
    const [across, down] = [mesh.across * picture.scale, mesh.down * picture.scale];
    const reached = new Uint8Array(W * H);
    for (let y = 0; y <= down; y += 0.5)
      for (let x = 0; x <= across; x += 0.5) {
        const [u, v] = drawnFrom(mesh, picture, x, y).map(Math.round);
        const i = v * W + u;
        if (u < 0 || v < 0 || u >= W || v >= H || !picture.covered[i]) blank++;
        else reached[i] = 1;
      }
    expect(blank / (4 * across * down)).toBeLessThan(0.01);
    const seen = reached.reduce((n, v) => n + v, 0);
    expect(seen / picture.covered.reduce((n, v) => n + v, 0)).toBeGreaterThan(0.97);
  });

  test('keeps straight lines straight, where the carving alone bends them', () => {
    const picture = wavy(lined);
    const mesh = fillRectangle(picture);
    const plain = fillRectangle({ ...picture, luma: picture.luma.map(() => 0.5) });
    if (!mesh || !plain) throw new Error('no mesh');
    // rows of the rectangle where a line of the picture is drawn, against the straight line that fits them best
    const bowOf = (bent: RectangleMesh): number => {
      const points: [number, number][] = [];
      for (let x = 12; x < bent.across * picture.scale - 12; x += 4)
        for (let y = 0; y < bent.down * picture.scale; y += 0.05) {
          const [u, v] = drawnFrom(bent, picture, x, y);
          if (v - 88 >= 0) {
            points.push([u, y]);
            break;
          }
        }
      const n = points.length;
      const [mu, my] = [0, 1].map((c) => points.reduce((s, p) => s + p[c] / n, 0));
      const slope =
        points.reduce((s, [u, y]) => s + (u - mu) * (y - my), 0) /
        points.reduce((s, [u]) => s + (u - mu) ** 2, 0);
      return Math.max(...points.map(([u, y]) => Math.abs(y - my - slope * (u - mu))));
    };
    expect(bowOf(mesh)).toBeLessThan(0.6);
    expect(bowOf(plain)).toBeGreaterThan(3 * bowOf(mesh));
    expect(mesh.bow * Math.hypot(W, H)).toBeLessThan(0.6);
  });

  test('changes hardly anything in a picture that fills its rectangle', () => {
    const picture = wavy(lined, 0);
    const mesh = fillRectangle({ ...picture, covered: new Uint8Array(W * H).fill(1) });
    if (!mesh) throw new Error('no mesh');
    expect(mesh.stretch).toBeLessThan(2);
    for (const [x, y] of [
      [20, 20],
      [120, 60],
      [200, 100],
    ]) {
      const [u, v] = drawnFrom(mesh, picture, x, y);
      expect(Math.hypot(u - x, v - y)).toBeLessThan(1);
    }
  });

  test('says how much it stretches: more where more is missing', () => {
    const stretches = [4, 12, 24].map((deep) => fillRectangle(wavy(lined, deep))?.stretch ?? 0);
    expect(stretches[0]).toBeLessThan(stretches[1]);
    expect(stretches[1]).toBeLessThan(stretches[2]);
    expect(stretches[2]).toBeGreaterThan(15);
  });

  test('is not tried on a picture without a covered pixel', () => {
    const picture = wavy(lined);
    expect(fillRectangle({ ...picture, covered: new Uint8Array(W * H) })).toBeUndefined();
  });
});
