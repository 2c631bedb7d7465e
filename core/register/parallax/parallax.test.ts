import { expect, test } from '@jest/globals';
import { onShield, type NearAndFar, seenFrom, shiftAt } from '@/tests/nearAndFar';
import { paint, waves } from '@/tests/paint';
import { emptyImage } from '../../raster/encodedImage';
import { IDENTITY } from '../../raster/matrix3';
import { randomSource } from '../../raster/random';
import { fitFindings } from '../fitFindings';
import { referenceRegistration } from '../registration';
import { apartOf } from './apartOf';
import { bendFrame } from './bendFrame';
import { isBetter, isConvincing, type LocalBend, unsureShare } from './localBend';
import { measureBend } from './measureBend';

const VIEW: NearAndFar = { width: 480, height: 320, far: (x) => -2 + x / 96, near: [8, -3] };

/** Errors of the shifts at those vertices that are sure, by the place of the reference that they show. */
function errorsOf(view: NearAndFar, bend: LocalBend): { near: number[]; far: number[] } {
  const unsure = new Set(bend.unsure);
  const out: { near: number[]; far: number[] } = { near: [], far: [] };
  for (let v = 0; v < bend.columns * bend.rows; v++) {
    const [x, y] = [(v % bend.columns) * bend.cell, Math.floor(v / bend.columns) * bend.cell];
    const edge = onShield(view, x, y);
    const isInside = x > 20 && y > 20 && x < view.width - 20 && y < view.height - 20;
    // a mesh cannot step: a cell to either side of the shield's edge it ramps
    if (!isInside || unsure.has(v) || (edge > 0.7 && edge < 1.5)) continue;
    const [dx, dy] = shiftAt(view, x, y);
    const off = Math.hypot(bend.shifts[2 * v] - dx, bend.shifts[2 * v + 1] - dy);
    (edge < 1 ? out.near : out.far).push(off);
  }
  return out;
}

const rms = (of: readonly number[]): number => Math.sqrt(of.reduce((s, v) => s + v * v, 0) / of.length);

test.each([0, 1.5, -2])(
  'near and far are found at once, %p EV apart, and the edge between is unsure',
  (stops) => {
    const [on, own] = [seenFrom(VIEW, 'reference', 0, 1), seenFrom(VIEW, 'frame', stops, 2)];
    const bend = measureBend(on, own, IDENTITY, stops);
    const { near, far } = errorsOf(VIEW, bend);
    expect(near.length).toBeGreaterThan(8);
    expect(far.length).toBeGreaterThan(60);
    expect(rms(near)).toBeLessThan(0.15);
    expect(rms(far)).toBeLessThan(0.15);
    expect(isConvincing(bend)).toBe(true);
    expect(isBetter(bend)).toBe(true);
    expect(bend.agreement.after).toBeGreaterThan(bend.agreement.before + 0.1);
    // every unsure vertex lies about the shield's edge
    const places = bend.unsure.map((v) =>
      onShield(VIEW, (v % bend.columns) * bend.cell, Math.floor(v / bend.columns) * bend.cell),
    );
    expect(places.length).toBeGreaterThan(0);
    expect(Math.max(...places)).toBeLessThan(1.8);
  },
);

test('a bent frame shows the reference: far better than any plane, and only what the frame has', () => {
  const [on, own] = [seenFrom(VIEW, 'reference', 0, 1), seenFrom(VIEW, 'frame', 0, 2)];
  const bend = measureBend(on, own, IDENTITY, 0);
  const bent = bendFrame(own, bend);
  const { inside } = bend;
  expect([bent.width, bent.height]).toEqual([inside.width, inside.height]);
  // the wall's left side shows two pixels of what lies beyond the frame, its right side three
  expect(inside.x).toBeGreaterThanOrEqual(2);
  expect(inside.x + inside.width).toBeLessThanOrEqual(VIEW.width - 3);
  const off = (image: typeof on, x0: number, y0: number): number => {
    let sum = 0;
    let count = 0;
    for (let y = 0; y < inside.height; y++)
      for (let x = 0; x < inside.width; x++) {
        const edge = onShield(VIEW, x + inside.x, y + inside.y);
        if (edge > 0.7 && edge < 1.5) continue;
        const a = on.data[3 * ((y + inside.y) * VIEW.width + x + inside.x)];
        sum += (image.data[3 * ((y + y0) * image.width + x + x0)] - a) ** 2;
        count++;
      }
    return Math.sqrt(sum / count);
  };
  expect(off(bent, 0, 0)).toBeLessThan(0.15 * off(own, inside.x, inside.y));
});

test('where there is no parallax nothing is bent', () => {
  const still: NearAndFar = { ...VIEW, far: () => 0, near: [0, 0] };
  const bend = measureBend(seenFrom(still, 'reference', 0, 1), seenFrom(still, 'frame', -1, 2), IDENTITY, -1);
  expect(bend.bends.most).toBeLessThan(0.1);
  expect(unsureShare(bend)).toBeLessThan(0.01);
  expect(bend.inside.width).toBeGreaterThan(VIEW.width - 3);
});

test('a part that lies elsewhere than the plane says is found, named and placed; where all lies as it should none is', () => {
  const still: NearAndFar = { ...VIEW, far: () => 0 };
  const on = seenFrom(still, 'reference', 0, 1);
  const apart = apartOf(on, seenFrom(still, 'frame', 1, 2), IDENTITY, 1);
  // the shield is 8 px off across and 3 down
  expect(apart?.px).toBeGreaterThan(7);
  expect(apart?.px).toBeLessThan(9.5);
  expect(apart?.share).toBeGreaterThan(0.05);
  expect(apart?.share).toBeLessThan(0.35);
  expect(onShield(VIEW, apart?.x ?? 0, apart?.y ?? 0)).toBeLessThan(1.5);
  const fit = { name: 'b.jpg', registration: referenceRegistration(), isReference: false };
  const found = fitFindings([{ ...fit, apart }], 1).find((f) => f.id === 'fit.parallax');
  expect(found).toMatchObject({ verdict: 'fail', value: apart?.px });
  expect(found?.why).toContain('% of b.jpg is off by up to');
  expect(fitFindings([fit], 1).some((f) => f.id === 'fit.parallax')).toBe(false);
  const none: NearAndFar = { ...still, near: [0, 0] };
  expect(apartOf(on, seenFrom(none, 'frame', 1, 2), IDENTITY, 1)).toBeUndefined();
});

test('what moves each its own way, as water and leaves do, is no parallax; as much that moves together is named', () => {
  const [width, height] = [480, 320];
  const wall = waves(9, 160);
  const random = randomSource(6);
  const ways = Array.from({ length: 200 }, () => 2 * Math.PI * random());
  /** a wall whose places shift by three pixels, each by so much of a turn; where there is none they stay */
  const seen = (way: (x: number, y: number) => number | undefined) =>
    paint(width, height, (x, y) => {
      const turn = way(x, y);
      const v = turn === undefined ? wall(x, y) : wall(x + 3 * Math.cos(turn), y + 3 * Math.sin(turn));
      return [v, v, v];
    });
  const still = seen(() => undefined);
  // islands of 26 pixels every 66: no two vertices beside each other move alike
  const island = (x: number, y: number): number | undefined =>
    x % 66 < 26 && y % 66 < 26 ? ways[8 * Math.floor(y / 66) + Math.floor(x / 66)] : undefined;
  expect(apartOf(still, seen(island), IDENTITY, 0)).toBeUndefined();
  const shield = (x: number, y: number): number | undefined =>
    x > 120 && x < 300 && y > 100 && y < 230 ? 0.4 : undefined;
  expect(apartOf(still, seen(shield), IDENTITY, 0)?.px).toBeGreaterThan(2);
});

test('a frame that shows next to nothing is not bent', () => {
  const [on, own] = [seenFrom(VIEW, 'reference', 0, 1), seenFrom(VIEW, 'frame', 7, 2)];
  const bend = measureBend(on, own, IDENTITY, 7);
  expect(isBetter(bend)).toBe(false);
  expect(isConvincing(bend)).toBe(false);
});

test('a frame of something else is no bend of it', () => {
  const other = seenFrom({ ...VIEW, far: () => 900, near: [4000, 900] }, 'frame', 0, 2);
  expect(isConvincing(measureBend(seenFrom(VIEW, 'reference', 0, 1), other, IDENTITY, 0))).toBe(false);
});

test('a bend of whole pixels moves pixels as they are', () => {
  const image = emptyImage(40, 30, 255);
  for (let i = 0; i < image.data.length; i++) image.data[i] = (i * 37) % 256;
  const [columns, rows] = [4, 3];
  const bend: LocalBend = {
    ...{ columns, rows, cell: 16, shifts: new Array(columns * rows).fill([3, -2]).flat() as number[] },
    inside: { x: 0, y: 2, width: 37, height: 28 },
    ...{ told: 1, unsure: [], bends: { typical: 3.6, most: 3.6 } },
    ...{ residual: { typical: 0, worst: 0 }, agreement: { before: 0, after: 1 } },
  };
  const bent = bendFrame(image, bend);
  for (const [x, y] of [
    [0, 0],
    [20, 13],
    [33, 24],
  ]) {
    const from = 3 * (y * 40 + x + 3);
    expect([...bent.data.subarray(3 * (y * 37 + x), 3 * (y * 37 + x) + 3)]).toEqual([
      ...image.data.subarray(from, from + 3),
    ]);
  }
});
