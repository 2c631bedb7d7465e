import { tuple } from 'yup';
import { operator } from '../../graph/operator';
import { between, place, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';

/** White balance: a patch that should be neutral, and the gains that make it so. */
export interface NeutralSettings {
  /** middle of the patch, full-size pixels of the picture it was taken from */
  readonly x: number;
  readonly y: number;
  /** mean codes of the patch when it was taken, 0…255 */
  readonly before: readonly [number, number, number];
  /** gains of linear R, G, B; the patch keeps its luminance */
  readonly gains: readonly [number, number, number];
}

type Gains = Pick<NeutralSettings, 'gains'>;

const balance = operator<Gains>({
  kind: 'balance',
  version: 1,
  gives: 'light',
  ...pixelwise<Gains>({
    plain:
      ({ gains }) =>
      (planes) =>
        planes.forEach((p, c) => {
          const gain = Math.fround(gains[c]);
          for (let i = 0; i < p.length; i++) p[i] *= gain;
        }),
    within:
      (k, { gains }) =>
      (at, plane, count) =>
        gains.forEach((gain, c) => k.scalePlane(at + c * plane, count, gain)),
  }),
});

export const neutral: EditKind<NeutralSettings> = {
  kind: 'neutral',
  rank: 'light',
  plain: { x: 0, y: 0, before: [128, 128, 128], gains: [1, 1, 1] },
  schema: strict({
    x: place(),
    y: place(),
    before: tuple([between(0, 255), between(0, 255), between(0, 255)]).required(),
    gains: tuple([between(0.01, 100), between(0.01, 100), between(0.01, 100)]).required(),
  }),
  changes: ({ gains }) => gains.some((gain) => gain !== 1),
  says: ({ gains: [r, g, b] }) => {
    const stops = (gain: number): string =>
      Math.log2(gain / g)
        .toFixed(2)
        .replace('-', '−');
    return `red ${stops(r)} EV, blue ${stops(b)} EV`;
  },
  operators: [balance],
  compile: (graph, input, { gains }) => ({ changed: graph.add('balance', { gains }, [input]) }),
};
