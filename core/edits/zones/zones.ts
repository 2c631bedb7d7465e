import { array } from 'yup';
import { operator } from '../../graph/operator';

import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';
import { signed } from '../signed';
import { zoneCurve, type ZoneMove } from './zoneCurve';

/** Tone by zones: moves of tones, stops from middle grey 0.18. */
export interface ZonesSettings {
  /** from dark to light, those that hold still too */
  readonly zones: readonly ZoneMove[];
}

const FIRST = -16;
const LAST = 8;
const STEPS = 48;

/** Gains of luminance by its stops, as a table: the ratio of the channels stays, so hue does. */
function zoneGains(zones: readonly ZoneMove[]): Float32Array {
  const curve = zoneCurve(zones);
  const gains = new Float32Array((LAST - FIRST) * STEPS + 2);
  for (let i = 0; i < gains.length; i++) {
    const s = FIRST + i / STEPS;
    gains[i] = 2 ** (curve(s) - s);
  }
  return gains;
}

const moveZones = operator<ZonesSettings>({
  kind: 'moveZones',
  version: 1,
  gives: 'light',
  ...pixelwise<ZonesSettings>({
    plain: ({ zones }) => {
      const gains = zoneGains(zones);
      return ([R, G, B]) => {
        for (let i = 0; i < R.length; i++) {
          const y = 0.2126 * R[i] + 0.7152 * G[i] + 0.0722 * B[i];
          const s = y > 0 ? (Math.log2(y / 0.18) - FIRST) * STEPS : 0;
          const t = Math.min(gains.length - 2, Math.max(0, s));
          const k = t | 0;
          const gain = gains[k] + (t - k) * (gains[k + 1] - gains[k]);
          R[i] *= gain;
          G[i] *= gain;
          B[i] *= gain;
        }
      };
    },
    within: (k, { zones }) => {
      const gains = zoneGains(zones);
      const table = k.upload(gains);
      return (at, plane, count) => k.gainByTone(at, plane, count, table, FIRST, STEPS, gains.length - 2);
    },
  }),
});

export const zones: EditKind<ZonesSettings> = {
  kind: 'zones',
  rank: 'tone',
  plain: { zones: [] },
  schema: strict({
    zones: array(strict({ at: between(-20, 20), by: between(-10, 10) }))
      .max(20)
      .required(),
  }),
  changes: ({ zones: moves }) => moves.some((z) => z.by !== 0),
  says: ({ zones: moves }) =>
    moves
      .filter((z) => z.by !== 0)
      .map((z) => `${signed(z.by, 2)} at ${signed(z.at, 1)}`)
      .join(', '),
  operators: [moveZones],
  compile: (graph, input, settings) => ({ changed: graph.add('moveZones', settings, [input]) }),
};
