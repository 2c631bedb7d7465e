import { array, boolean, mixed } from 'yup';
import { operator } from '../../graph/operator';
import { curveAt, type MatchMap } from '../../match/matchMap';
import { type Code } from '../../match/matchMark';
import { linearToSrgb, srgbToLinear } from '../../raster/srgb';
import { areNumbers, between, oneOf, place, share, strict, text } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';
import { mapCurves, mapMatrix } from './mapSchema';
import { matchMapOf, type MatchSettings, MOST_MARKS, MOST_REFERENCES } from './matchSettings';

type Map = Pick<MatchSettings, 'matrix' | 'curves'>;

const LAST = 4096;
/** light up to which tables go: what the curves tell apart */
const TOP = 1.35;

/** Light that comes out, at even steps of the root of light that goes in. */
const tableOf = (curve: readonly number[]): Float32Array => {
  const spline = Float64Array.from(curve);
  return Float32Array.from({ length: LAST + 2 }, (_, i) => {
    const code = curveAt(spline, linearToSrgb((i / LAST) ** 2 * TOP));
    return Math.sign(code) * srgbToLinear(Math.abs(code));
  });
};

/** Light through the matrix and the tables of a map; see the kernel `throughTables`. */
const matchColours = operator<Map>({
  kind: 'matchColours',
  version: 1,
  gives: 'light',
  ...pixelwise<Map>({
    plain: ({ matrix: m, curves }) => {
      const tables = curves.map(tableOf);
      return (planes) => {
        const [R, G, B] = planes.map((p) => p.slice());
        for (let i = 0; i < R.length; i++)
          tables.forEach((table, c) => {
            const mix = m[3 * c] * R[i] + m[3 * c + 1] * G[i] + m[3 * c + 2] * B[i];
            planes[c][i] = throughTable(table, mix);
          });
      };
    },
    within: (k, { matrix, curves }) => {
      const m = k.upload(Float32Array.from(matrix));
      const tables = k.upload(Float32Array.from(curves.flatMap((c) => [...tableOf(c)])));
      return (at, plane, count) => k.throughTables(at, plane, count, m, tables, 4 * (LAST + 2), TOP, LAST);
    },
  }),
});

function throughTable(table: Float32Array, mix: number): number {
  if (mix <= 0) return table[0] + mix;
  if (mix >= TOP) return table[LAST] * (mix / TOP);
  const at = Math.sqrt(mix / TOP) * LAST;
  const k = Math.floor(at);
  return table[k] + (at - k) * (table[k + 1] - table[k]);
}

const score = () =>
  strict({
    deltaE: between(0, 500),
    darks: between(-60, 60),
    middles: between(-60, 60),
    lights: between(-60, 60),
    cast: strict({ hue: between(0, 360), strength: between(0, 10) }),
    chroma: between(0, 1e6),
  });

const code = () => mixed<Code>((v): v is Code => areNumbers(v, 3) && v.every((c) => c >= 0 && c <= 1));

export const match: EditKind<MatchSettings> = {
  kind: 'match',
  rank: 'tone',
  plain: { to: '', matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], curves: [], tone: 1, contrast: 1, colour: 1 },
  schema: strict({
    to: text(255),
    weighed: array(strict({ to: text(255), weight: share() }))
      .min(2)
      .max(MOST_REFERENCES)
      .default(undefined)
      .optional(),
    matrix: mapMatrix(),
    curves: mapCurves(true).required(),
    tone: share(),
    contrast: share(),
    colour: share(),
    halfway: between(0.2, 0.8).default(undefined).optional(),
    marks: array(
      strict({
        says: oneOf(['white', 'grey', 'keep', 'same']),
        x: place(),
        y: place(),
        from: code().required(),
        to: code().default(undefined).optional(),
      }),
    )
      .max(MOST_MARKS)
      .default(undefined)
      .optional(),
    scores: strict({
      before: score(),
      after: score(),
      paired: boolean().strict(true).required(),
      samePlace: boolean().strict(true).optional(),
      why: text(500),
      cannot: array(text(500)).max(10).required(),
    })
      .default(undefined)
      .optional(),
  }),
  changes: ({ curves, tone, contrast, colour }) => curves.length === 3 && tone + contrast + colour > 0,
  says: ({ to, marks = [] }) =>
    [
      ...(to === '' ? [] : [`like ${to}`]),
      ...(marks.length > 0 ? [`by ${marks.length} ${marks.length === 1 ? 'mark' : 'marks'}`] : []),
    ].join(', '),
  operators: [matchColours],
  compile: (graph, input, settings) => ({
    changed: graph.add('matchColours', plainMap(matchMapOf(settings)), [input]),
  }),
};

/** A map as plain data. */
const plainMap = ({ matrix, curves }: MatchMap): Map => ({
  matrix,
  curves: curves.map((c) => [...c]),
});
