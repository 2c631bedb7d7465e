import { array } from 'yup';
import { linearOfOklab, oklabOf } from '../../colour/oklab';
import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';
import { signed } from '../signed';
import { type HueMove, moves } from './hueMove';
import { hueWeights } from './hueWeights';
import { length2 } from '../../raster/length';

/** Colours changed by their hue, in Oklab (Ottosson 2020): hues that the picture holds, and what becomes of each. */
export interface HuesSettings {
  /** at different hues, those that hold still too */
  readonly hues: readonly HueMove[];
}

/** most hues that are told apart */
export const MOST_HUES = 12;

/** steps of a table by hue a full turn */
const STEPS = 1440;
/** chroma over lightness below which a colour has no hue of its own, and from which it counts whole */
const LEAST = 0.02;
const WHOLE = 0.08;

/** What a colour is multiplied by, at even steps of b / (|a| + |b|) from −b on: a + ib by `real` + i `imaginary`, L by `lightness`. */
interface HueTables {
  readonly real: Float32Array;
  readonly imaginary: Float32Array;
  readonly lightness: Float32Array;
}

function tablesOf(hues: readonly HueMove[]): HueTables {
  const places = hues.map((h) => h.at);
  const [real, imaginary, lightness] = [0, 1, 2].map(() => new Float32Array(STEPS + 2));
  for (let k = 0; k < STEPS + 2; k++) {
    const turn = (4 * k) / STEPS - 1;
    const [a, b] = turn <= 1 ? [1 - Math.abs(turn), turn] : [Math.abs(2 - turn) - 1, 2 - turn];
    const weights = hueWeights(places, (Math.atan2(b, a) * 180) / Math.PI);
    const sum = (of: (hue: HueMove) => number): number =>
      hues.reduce((total, hue, i) => total + weights[i] * of(hue), 0);
    const angle = (sum((h) => h.turn) * Math.PI) / 180;
    // light that is multiplied by g multiplies all of Oklab by its cube root
    const root = 2 ** (sum((h) => h.light) / 3);
    const factor = root * (1 + sum((h) => h.chroma - 1));
    real[k] = factor * Math.cos(angle);
    imaginary[k] = factor * Math.sin(angle);
    lightness[k] = root;
  }
  return { real, imaginary, lightness };
}

const along = (table: Float32Array, at: number): number => {
  const k = Math.floor(at);
  return table[k] + (at - k) * (table[k + 1] - table[k]);
};

const turnHues = operator<HuesSettings>({
  kind: 'turnHues',
  version: 1,
  gives: 'light',
  ...pixelwise<HuesSettings>({
    plain: ({ hues }) => {
      const { real, imaginary, lightness } = tablesOf(hues);
      return ([R, G, B]) => {
        for (let i = 0; i < R.length; i++) {
          const [L, a, b] = oklabOf(R[i], G[i], B[i]);
          const t = b / (Math.abs(a) + Math.abs(b) + 1e-12);
          const at = ((a >= 0 ? t : 2 - t) + 1) * (STEPS / 4);
          const strength = length2(a, b) / Math.max(L, 1e-4);
          const ramp = Math.min(1, Math.max(0, (strength - LEAST) / (WHOLE - LEAST)));
          const share = ramp * ramp * (3 - 2 * ramp);
          const p = 1 + share * (along(real, at) - 1);
          const q = share * along(imaginary, at);
          const l = 1 + share * (along(lightness, at) - 1);
          [R[i], G[i], B[i]] = linearOfOklab(L * l, a * p - b * q, a * q + b * p);
        }
      };
    },
    within: (k, { hues }) => {
      const { real, imaginary, lightness } = tablesOf(hues);
      const tables = k.upload(Float32Array.from([...real, ...imaginary, ...lightness]));
      return (at, plane, count) =>
        k.turnHues(at, plane, count, tables, 4 * (STEPS + 2), STEPS, LEAST, 1 / (WHOLE - LEAST));
    },
  }),
});

/** What becomes of a hue, a few words. */
const saysOf = ({ at, turn, chroma, light }: HueMove): string =>
  [
    `${Math.round(at)}°`,
    ...(turn === 0 ? [] : [`${signed(turn, 0)}°`]),
    ...(chroma === 1 ? [] : [`× ${Number(chroma.toFixed(2))}`]),
    ...(light === 0 ? [] : [`${signed(light, 2)} EV`]),
  ].join(' ');

export const hues: EditKind<HuesSettings> = {
  kind: 'hues',
  rank: 'colour',
  plain: { hues: [] },
  schema: strict({
    hues: array(
      strict({
        at: between(0, 360),
        turn: between(-180, 180),
        chroma: between(0, 4),
        light: between(-4, 4),
      }),
    )
      .max(MOST_HUES)
      .test(
        'apart',
        '${path} must be different hues',
        (list) =>
          list === undefined ||
          new Set(list.map((h: { at?: number }) => (h.at ?? 0) % 360)).size === list.length,
      )
      .required(),
  }),
  changes: (settings) => settings.hues.some(moves),
  says: (settings) => settings.hues.filter(moves).map(saysOf).join(', '),
  operators: [turnHues],
  compile: (graph, input, settings) => ({ changed: graph.add('turnHues', settings, [input]) }),
};
