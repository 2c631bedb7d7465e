import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';
import { signed } from '../signed';

/** Brighter or darker, as if it had been exposed so. */
export interface ExposureSettings {
  /** EV */
  readonly stops: number;
}

const exposeLight = operator<ExposureSettings>({
  kind: 'expose',
  version: 1,
  gives: 'light',
  ...pixelwise<ExposureSettings>({
    plain: ({ stops }) => {
      const gain = Math.fround(2 ** stops);
      return (planes) =>
        planes.forEach((p) => {
          for (let i = 0; i < p.length; i++) p[i] *= gain;
        });
    },
    within: (k, { stops }) => {
      const gain = 2 ** stops;
      return (at, plane, count) => [0, 1, 2].forEach((c) => k.scalePlane(at + c * plane, count, gain));
    },
  }),
});

export const exposure: EditKind<ExposureSettings> = {
  kind: 'exposure',
  rank: 'light',
  plain: { stops: 0 },
  schema: strict({ stops: between(-10, 10) }),
  changes: ({ stops }) => stops !== 0,
  says: ({ stops }) => `${signed(stops, 2)} EV`,
  operators: [exposeLight],
  compile: (graph, input, { stops }) => ({ changed: graph.add('expose', { stops }, [input]) }),
};
