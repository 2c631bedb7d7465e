import { describe, expect, test } from '@jest/globals';
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { versionOf } from '@/core/graph/operators';
import { type At, type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { maskOf } from '@/core/graph/wanted';
import { imageLevels } from '@/engine/tasks';
import { oklabOf } from '@/core/colour/oklab';
import { boxMean } from '@/core/raster/boxMean';
import { IDENTITY } from '@/core/raster/matrix3';
import { srgbToLinear } from '@/core/raster/srgb';
import { paint } from '@/tests/paint';
import { compileRegion } from './compileRegion';
import { type Part, type Region } from './region';
import { octagonMaximum } from './shape/growMask';
import { hueDistance } from './colour/colour';

const [W, H] = [240, 160];
const picture = paint(W, H, (x, y) => [x / W, y / H, 0.5 + 0.4 * Math.sin((x + y) / 20)], 65535);
const whole = { x: 0, y: 0, width: W, height: H };

const region = (
  parts: readonly (Part | [how: 'add' | 'remove' | 'keep', part: Part])[],
  change: Partial<Region> = {},
): Region => ({
  id: 'r',
  name: 'r',
  parts: parts.map((p, i) => {
    const [how, part] = 'kind' in p ? ([i === 0 ? 'add' : 'keep', p] as const) : p;
    return { how, part, turned: false, on: true };
  }),
  grow: 0,
  feather: 0,
  follow: 0,
  invert: false,
  ...change,
});

/** A region's mask on a rectangle of a level. */
function maskAt(where: Region, area: At['area'] = whole, level = 0): Float32Array {
  const g = buildGraph(versionOf);
  const made = g.add('frame', { hash: 'a' });
  const light = g.add('samplePicture', { matrix: IDENTITY }, [made]);
  const hash = compileRegion(g, where, { longEdge: W, picture: light, named: () => undefined });
  if (!hash) throw new Error('everywhere');
  const value: Value = { is: 'picture', levels: imageLevels(picture) };
  const world = { made: () => value, cache: NO_CACHE, keeps: () => false };
  return maskOf(evaluate(g.graph, hash, { level, area, kernel: 'bilinear' }, world), 'a test').plane;
}

const smooth = (t: number): number => {
  const s = Math.min(1, Math.max(0, t));
  return 3 * s * s - 2 * s * s * s;
};
const colourAt = (x: number, y: number): [number, number, number] => {
  const i = (y * W + x) * 3;
  return [0, 1, 2].map((c) => srgbToLinear(picture.data[i + c] / 65535)) as [number, number, number];
};
const PLACES = [
  [3, 5],
  [60, 80],
  [120, 20],
  [200, 140],
  [239, 159],
  [17, 150],
] as const;

describe('parts have the values of their closed forms', () => {
  test('tone: smooth steps of the stops from middle grey', () => {
    const plane = maskAt(region([{ kind: 'tone', settings: { from: -2, to: 1, soft: 1.5 } }]));
    for (const [x, y] of PLACES) {
      const [r, g, b] = colourAt(x, y);
      const stops = Math.log2((0.2126 * r + 0.7152 * g + 0.0722 * b) / 0.18);
      expect(plane[y * W + x]).toBeCloseTo(smooth(Math.min(stops + 2, 1 - stops) / 1.5 + 1), 3);
    }
  });

  test('colour: hue and chroma of Oklab', () => {
    const settings = { hue: 150, width: 40, soft: 30, from: 0.05, to: 0.4 };
    const plane = maskAt(region([{ kind: 'colour', settings }]));
    for (const [x, y] of PLACES) {
      const [, a, b] = oklabOf(...colourAt(x, y));
      const off = hueDistance((Math.atan2(b, a) * 180) / Math.PI, 150);
      const chroma = Math.hypot(a, b);
      const want = smooth((40 - off) / 30 + 1) * smooth(Math.min(chroma - 0.05, 0.4 - chroma) / 0.0125 + 1);
      expect(plane[y * W + x]).toBeCloseTo(want, 3);
    }
  });

  test.each([0.2, 0.35, 0.8])('gradient: half of it is left where it is asked for, %f of the way', (half) => {
    const settings = { x0: 0, y0: 0, x1: 1, y1: 0, half };
    const plane = maskAt(region([{ kind: 'gradient', settings }]));
    const row = plane.slice(0, W);
    const reached = row.findIndex((v) => v < 0.5);
    expect(Math.abs(reached + 0.5 - half * W)).toBeLessThan(1.01);
    row.forEach((v, i) => i > 0 && expect(v).toBeLessThanOrEqual(row[i - 1]));
    // in the middle it is the very same as without
    const middle = maskAt(region([{ kind: 'gradient', settings: { ...settings, half: 0.5 } }]));
    expect(middle).toEqual(maskAt(region([{ kind: 'gradient', settings: { x0: 0, y0: 0, x1: 1, y1: 0 } }])));
  });

  test('gradient: one at its start, nothing at its end, a smooth step between', () => {
    const plane = maskAt(region([{ kind: 'gradient', settings: { x0: 0.25, y0: 0, x1: 0.75, y1: 0 } }]));
    for (const [x, y] of PLACES)
      expect(plane[y * W + x]).toBeCloseTo(smooth(1 - ((x + 0.5) / W - 0.25) / 0.5), 5);
  });

  test('ellipse and polygon cover their areas', () => {
    const ellipse = maskAt(
      region([{ kind: 'ellipse', settings: { x: 0.5, y: 0.33, across: 0.2, down: 0.1, turn: 30, soft: 0 } }]),
    );
    const sum = (p: Float32Array): number => p.reduce((a, b) => a + b, 0);
    expect(sum(ellipse) / (Math.PI * 0.2 * 0.1 * W * W)).toBeCloseTo(1, 2);
    const corners = [
      [0.1, 0.1],
      [0.6, 0.15],
      [0.4, 0.6],
    ] as const;
    const area = 0.5 * Math.abs((0.6 - 0.1) * (0.6 - 0.1) - (0.4 - 0.1) * (0.15 - 0.1));
    expect(sum(maskAt(region([{ kind: 'polygon', settings: { corners } }]))) / (area * W * W)).toBeCloseTo(
      1,
      2,
    );
  });

  test('joined by add, remove and keep', () => {
    const across = (x0: number, x1: number): Part => ({
      kind: 'gradient',
      settings: { x0, y0: 0, x1, y1: 0 },
    });
    const [a, b] = [maskAt(region([across(0, 1)])), maskAt(region([across(0.8, 0.3)]))];
    const joined = (how: 'add' | 'remove' | 'keep') =>
      maskAt(region([across(0, 1), [how, across(0.8, 0.3)]]));
    for (const i of [1000, 9000, 20000]) {
      expect(joined('add')[i]).toBeCloseTo(a[i] + (1 - a[i]) * b[i], 5);
      expect(joined('remove')[i]).toBeCloseTo(a[i] * (1 - b[i]), 5);
      expect(joined('keep')[i]).toBeCloseTo(a[i] * b[i], 5);
    }
    expect(maskAt(region([['remove', across(0, 1)]]))[5000]).toBeCloseTo(1 - a[5000], 5);
    expect(maskAt(region([across(0, 1)], { invert: true }))[5000]).toBeCloseTo(1 - a[5000], 5);
  });
});

const box: Part = {
  kind: 'polygon',
  settings: {
    corners: [
      [0.3, 0.2],
      [0.7, 0.2],
      [0.7, 0.5],
      [0.3, 0.5],
    ],
  },
};

describe('shaping', () => {
  test('a tile is the same part of the whole, however the region is shaped', () => {
    const where = region([box], { feather: 0.04, follow: 0.02, grow: 0.02 });
    const all = maskAt(where);
    const tile = { x: 70, y: 40, width: 64, height: 48 };
    const part = maskAt(where, tile);
    let worst = 0;
    for (let y = 0; y < tile.height; y++)
      for (let x = 0; x < tile.width; x++)
        worst = Math.max(worst, Math.abs(part[y * tile.width + x] - all[(y + tile.y) * W + x + tile.x]));
    expect(worst).toBeLessThan(1e-5);
  });

  test.each([12, 17, 24, 30, 47, 72])(
    'a feather of three boxes of %i pixels, worked at a reduced level, is the full one to 1/255',
    (radius) => {
      const margin = 3 * radius;
      const wide = { x: -margin, y: -margin, width: W + 2 * margin, height: H + 2 * margin };
      let plane = maskAt(region([box]), wide);
      for (let pass = 0; pass < 3; pass++) plane = boxMean(plane, wide.width, wide.height, radius);
      const feathered = maskAt(region([box], { feather: radius / Math.max(W, H) }));
      let worst = 0;
      for (let y = 0; y < H; y++)
        for (let x = 0; x < W; x++)
          worst = Math.max(
            worst,
            Math.abs(feathered[y * W + x] - plane[(y + margin) * wide.width + x + margin]),
          );
      expect(worst).toBeLessThan(1 / 255);
    },
  );

  test('growing adds what a disc reaches, within a tenth of its radius; shrinking takes as much away', () => {
    const dot = new Float32Array(101 * 101);
    dot[50 * 101 + 50] = 1;
    const grown = octagonMaximum(dot, 101, 101, 20);
    for (let y = 0; y < 101; y++)
      for (let x = 0; x < 101; x++) {
        const r = Math.hypot(x - 50, y - 50);
        if (r < 18) expect(grown[y * 101 + x]).toBe(1);
        if (r > 22.5) expect(grown[y * 101 + x]).toBe(0);
      }
    const sum = (p: Float32Array): number => p.reduce((a, b) => a + b, 0);
    const [less, plain, more] = [-0.02, 0, 0.02].map((grow) => sum(maskAt(region([box], { grow }))));
    expect(more).toBeGreaterThan(plain * 1.12);
    expect(less).toBeLessThan(plain * 0.88);
  });

  test('a small version shows the same region, within 1/255 on average', () => {
    const parts: Part[] = [
      { kind: 'tone', settings: { from: -3, to: 2, soft: 2 } },
      { kind: 'gradient', settings: { x0: 0, y0: 0, x1: 1, y1: 0.3 } },
      box,
    ];
    const where = region(parts, { feather: 0.03 });
    const full = maskAt(where);
    const half = maskAt(where, { x: 0, y: 0, width: W / 2, height: H / 2 }, 1);
    let sum = 0;
    for (let y = 0; y < H / 2; y++)
      for (let x = 0; x < W / 2; x++) {
        const i = 2 * y * W + 2 * x;
        sum += Math.abs(half[(y * W) / 2 + x] - (full[i] + full[i + 1] + full[i + W] + full[i + W + 1]) / 4);
      }
    expect(sum / (W * H * 0.25)).toBeLessThan(1 / 255);
  });
});
