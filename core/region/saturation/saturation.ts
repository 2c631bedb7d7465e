import { oklabOf } from '../../colour/oklab';
import { between, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { rangeOperator } from '../rangeOperator';
import { smoothRange, type SoftRange } from '../smoothRange';
import { length2 } from '../../raster/length';

/** How much of a colour is chroma: C / √(C² + L²) of Oklab (the form of saturation in CIELCh, Lübbe 2010), 0 grey … 1. */
export function saturationOf(r: number, g: number, b: number): number {
  const [L, A, B] = oklabOf(r, g, b);
  const chroma = length2(A, B);
  return chroma === 0 ? 0 : chroma / length2(chroma, L);
}

const saturationRange = rangeOperator<SoftRange>(
  'saturationRange',
  1,
  (range) => (r, g, b) => smoothRange(saturationOf(r, g, b), range),
);

export const saturation: PartKind<SoftRange> = {
  kind: 'saturation',
  schema: strict({ from: between(-1, 2), to: between(-1, 2), soft: between(0, 1) }),
  plain: { from: 0.15, to: 1, soft: 0.1 },
  says: ({ from, to }) => `saturation ${Math.round(100 * from)} to ${Math.round(100 * to)} %`,
  operators: [saturationRange],
  compile: (graph, range, { picture }) =>
    picture ? graph.add('saturationRange', range, [picture]) : undefined,
};
