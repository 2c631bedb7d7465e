import { array } from 'yup';
import { linearOfOklab, oklabOf } from '../../colour/oklab';
import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';
import { signed } from '../signed';
import { tintLine, type TintPoint, tintRoom } from './tintLine';

/** A tint along tone, in Oklab (Ottosson 2020); lightness stays. */
export interface TintSettings {
  readonly points: readonly TintPoint[];
}

/** most points of a tint line */
export const MOST_POINTS = 8;
/** most that a point adds, chroma of Oklab */
export const MOST_STRENGTH = 0.2;

/** lightness up to which the table goes: 3.4 stops over middle grey, beyond it the tint stays */
const TOP = 1.25;
const LAST = 1000;

interface TintTables {
  readonly a: Float32Array;
  readonly b: Float32Array;
}

function tablesOf(points: readonly TintPoint[]): TintTables {
  const line = tintLine(points);
  const [a, b] = [0, 1].map(() => new Float32Array(LAST + 2));
  for (let k = 1; k < LAST + 2; k++) {
    const lightness = (k / LAST) * TOP;
    const room = tintRoom(lightness);
    // the lightness of a grey is the cube root of its light
    const tint = line(Math.log2(lightness ** 3 / 0.18));
    a[k] = room * tint[0];
    b[k] = room * tint[1];
  }
  return { a, b };
}

const tintByTone = operator<TintSettings>({
  kind: 'tintByTone',
  version: 1,
  gives: 'light',
  ...pixelwise<TintSettings>({
    plain: ({ points }) => {
      const tables = tablesOf(points);
      return ([R, G, B]) => {
        for (let i = 0; i < R.length; i++) {
          const [L, a, b] = oklabOf(R[i], G[i], B[i]);
          const at = Math.min(LAST, Math.max(0, (L * LAST) / TOP));
          const k = Math.floor(at);
          const added = (t: Float32Array): number => t[k] + (at - k) * (t[k + 1] - t[k]);
          [R[i], G[i], B[i]] = linearOfOklab(L, a + added(tables.a), b + added(tables.b));
        }
      };
    },
    within: (k, { points }) => {
      const { a, b } = tablesOf(points);
      const tables = k.upload(Float32Array.from([...a, ...b]));
      return (at, plane, count) => k.tintByTone(at, plane, count, tables, 4 * (LAST + 2), LAST / TOP, LAST);
    },
  }),
});

/** A strength as it is read: hundredths of chroma. */
export const strengthText = (strength: number): string => (100 * strength).toFixed(1);

export const tint: EditKind<TintSettings> = {
  kind: 'tint',
  rank: 'colour',
  plain: { points: [] },
  schema: strict({
    points: array(strict({ at: between(-20, 20), hue: between(0, 360), strength: between(0, MOST_STRENGTH) }))
      .max(MOST_POINTS)
      .required(),
  }),
  changes: ({ points }) => points.some((p) => p.strength > 0),
  says: ({ points }) =>
    points
      .filter((p) => p.strength > 0)
      .map(({ at, hue, strength }) => `${Math.round(hue)}° ${strengthText(strength)} at ${signed(at, 1)}`)
      .join(', '),
  operators: [tintByTone],
  compile: (graph, input, settings) => ({ changed: graph.add('tintByTone', settings, [input]) }),
};
