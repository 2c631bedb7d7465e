import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { OPERATORS, versionOf } from '@/core/graph/operators';
import { type LightTile, type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { lightOf } from '@/core/graph/wanted';
import { randomSource } from '@/core/raster/random';
import { largestDifference } from '@/tests/paint';
import { EDIT_KINDS, type EditKindName } from './editKinds';

const N = 64;
const random = randomSource(11);
/** linear light from far under black to twice white */
const light: LightTile = {
  is: 'light',
  encoded: false,
  planes: [0, 1, 2].map(() => Float32Array.from({ length: N * N }, () => 2 * random() ** 3)),
};
const at = { level: 0, area: { x: 0, y: 0, width: N, height: N }, kernel: 'lanczos' } as const;

/** What a graph of one edit gives for a tile of light. */
function edited(
  kind: EditKindName,
  settings: object,
  mix?: { amount: number; mask?: Float32Array },
): LightTile {
  const g = buildGraph(versionOf);
  const input = g.add('fillColour', { colour: [0, 0, 0] });
  const { changed } = (EDIT_KINDS[kind].compile as (...args: unknown[]) => { changed: string })(
    g,
    input,
    settings,
    {},
  );
  const mask = mix?.mask ? g.add('fadeAlong', { x0: 0, y0: 0, x1: 1, y1: 1, longEdge: N }) : '';
  const last = mix ? g.add('mix', { amount: mix.amount }, [input, changed, mask]) : changed;
  const given = new Map<string, Value>([[input, light]]);
  if (mix?.mask) given.set(mask, { is: 'mask', plane: mix.mask });
  const world = {
    made: () => undefined,
    keeps: (hash: string) => given.has(hash),
    cache: { ...NO_CACHE, get: (hash: string) => given.get(hash) },
  };
  return lightOf(evaluate(g.graph, last, at, world), 'a test');
}

const CASES = {
  exposure: { stops: 0.7 },
  neutral: { x: 0, y: 0, before: [100, 120, 140], gains: [1.2, 0.98, 0.8] },
  zones: { zones: [-6, -3, 0, 1.5, 2.4].map((zone, i) => ({ at: zone, by: [0, 0.6, 0.2, -0.4, 0][i] })) },
  saturation: { factor: 1.35 },
  chart: {
    ...{ frame: 'f', corners: [], colours: [] },
    matrix: [1.3, -0.2, 0.01, 0.05, 0.9, 0.03, -0.02, 0.1, 1.5],
  },
  hues: {
    hues: [
      { at: 20, turn: 25, chroma: 1.4, light: -0.5 },
      { at: 140, turn: -40, chroma: 0.6, light: 0 },
      { at: 262, turn: 0, chroma: 0, light: 0.7 },
    ],
  },
  tint: {
    points: [
      { at: -4, hue: 250, strength: 0.03 },
      { at: 1, hue: 50, strength: 0.06 },
    ],
  },
  match: {
    to: 'x',
    matrix: [1.2, -0.2, 0, 0.1, 0.8, 0.1, 0, -0.1, 1.1],
    curves: [0.02, 0, -0.05].map((by) =>
      Array.from({ length: 13 }, (_, i) => -0.148 + 0.118 * i + by * Math.sin(i / 3)),
    ),
    ...{ tone: 1, contrast: 1, colour: 1 },
  },
} as const;

describe('edits that look at one pixel', () => {
  test.each(Object.keys(CASES) as (keyof typeof CASES)[])(
    '%s: compiled form and plain form agree',
    (kind) => {
      const compiled = edited(kind, CASES[kind]);
      const [op] = EDIT_KINDS[kind].operators;
      const plain = lightOf(op.run?.([light], CASES[kind], at), 'a test');
      compiled.planes.forEach((p, c) => {
        const off = p.map((v, i) => Math.abs(v - plain.planes[c][i]) / Math.max(1, Math.abs(v)));
        expect(off.reduce((a, b) => Math.max(a, b))).toBeLessThan(2e-5);
      });
    },
  );

  test('exposure is a factor of two a stop, unclipped', () => {
    const { planes } = edited('exposure', { stops: 1 });
    planes.forEach((p, c) =>
      expect(
        largestDifference(
          p,
          light.planes[c].map((v) => 2 * v),
        ),
      ).toBeLessThan(5e-6),
    );
  });

  test('saturation is what culori makes of Oklab chroma', () => {
    const toLab = converter('oklab');
    const toRgb = converter('lrgb');
    const { planes } = edited('saturation', { factor: 0.5 });
    for (let i = 0; i < 200; i++) {
      const [r, g, b] = light.planes.map((p) => p[i]);
      const lab = toLab({ mode: 'lrgb', r, g, b });
      const want = toRgb({ mode: 'oklab', l: lab.l, a: lab.a / 2, b: lab.b / 2 });
      expect(planes[0][i]).toBeCloseTo(want.r, 4);
      expect(planes[1][i]).toBeCloseTo(want.g, 4);
      expect(planes[2][i]).toBeCloseTo(want.b, 4);
    }
  });

  test('an amount and a mask take it over in part', () => {
    const mask = Float32Array.from({ length: N * N }, (_, i) => (i % 3) / 2);
    const { planes } = edited('exposure', { stops: 1 }, { amount: 0.6, mask });
    planes.forEach((p, c) =>
      expect(
        largestDifference(
          p,
          light.planes[c].map((v, i) => v * (1 + 0.6 * mask[i])),
        ),
      ).toBeLessThan(5e-6),
    );
  });
});

test('every kind says what it does, checks its own settings and has its operators in the table', () => {
  for (const [name, kind] of Object.entries(EDIT_KINDS)) {
    expect(kind.kind).toBe(name);
    expect(() => void kind.schema.validateSync(kind.plain, { strict: true })).not.toThrow();
    expect(() => void kind.schema.validateSync({ ...kind.plain, other: 1 }, { strict: true })).toThrow();
    expect((kind.says as (s: object) => string)(kind.plain).length).toBeGreaterThanOrEqual(0);
    for (const op of kind.operators) expect(OPERATORS.get(op.kind)).toBe(op);
  }
});
