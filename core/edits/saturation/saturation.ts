import { oklabOf, linearOfOklab } from '../../colour/oklab';
import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';

/** How colourful it is: the chroma of Oklab (Ottosson 2020), lightness and hue kept. */
export interface SaturationSettings {
  /** factor; 1 leaves it */
  readonly factor: number;
}

const saturate = operator<SaturationSettings>({
  kind: 'saturate',
  version: 1,
  gives: 'light',
  ...pixelwise<SaturationSettings>({
    plain:
      ({ factor }) =>
      ([R, G, B]) => {
        for (let i = 0; i < R.length; i++) {
          const [L, a, b] = oklabOf(R[i], G[i], B[i]);
          [R[i], G[i], B[i]] = linearOfOklab(L, factor * a, factor * b);
        }
      },
    within:
      (k, { factor }) =>
      (at, plane, count) =>
        k.scaleChroma(at, plane, count, factor),
  }),
});

export const saturation: EditKind<SaturationSettings> = {
  kind: 'saturation',
  rank: 'colour',
  plain: { factor: 1 },
  schema: strict({ factor: between(0, 4) }),
  changes: ({ factor }) => factor !== 1,
  says: ({ factor }) => `× ${Number(factor.toFixed(2))}`,
  operators: [saturate],
  compile: (graph, input, settings) => ({ changed: graph.add('saturate', settings, [input]) }),
};
