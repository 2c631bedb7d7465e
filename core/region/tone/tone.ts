import { toneOf } from '../../merge/radiance/toneMap';
import { between, strict } from '../../recipe/schemaParts';
import { signed } from '../../edits/signed';
import { type PartKind } from '../partKind';
import { rangeOperator } from '../rangeOperator';
import { smoothRange, type SoftRange } from '../smoothRange';

const toneRange = rangeOperator<SoftRange>(
  'toneRange',
  1,
  (range) => (r, g, b) => smoothRange(toneOf(r, g, b), range),
);

/** Tones: stops of luminance from middle grey 0.18. */
export const tone: PartKind<SoftRange> = {
  kind: 'tone',
  schema: strict({ from: between(-30, 30), to: between(-30, 30), soft: between(0, 20) }),
  plain: { from: -1, to: 3, soft: 1 },
  says: ({ from, to }) => `tones ${signed(from, 1)} to ${signed(to, 1)} EV`,
  operators: [toneRange],
  compile: (graph, range, { picture }) => (picture ? graph.add('toneRange', range, [picture]) : undefined),
};
