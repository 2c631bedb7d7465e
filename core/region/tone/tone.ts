import { tonesOf } from '../../merge/radiance/toneMap';
import { operator } from '../../graph/operator';
import { lightOf } from '../../graph/wanted';
import { between, strict } from '../../recipe/schemaParts';
import { signed } from '../../edits/signed';
import { type PartKind } from '../partKind';
import { inRange } from '../inRange';
import { type SoftRange } from '../smoothRange';

const toneRange = operator<SoftRange>({
  kind: 'toneRange',
  version: 3,
  gives: 'mask',
  works: 'linear',
  run: ([input], range) => {
    const plane = tonesOf(lightOf(input, 'a range of tones').planes);
    return { is: 'mask', plane: inRange(plane, range) };
  },
});

/** Tones: stops of luminance from middle grey 0.18. */
export const tone: PartKind<SoftRange> = {
  kind: 'tone',
  schema: strict({ from: between(-30, 30), to: between(-30, 30), soft: between(0, 20) }),
  plain: { from: -1, to: 3, soft: 1 },
  says: ({ from, to }) => `tones ${signed(from, 1)} to ${signed(to, 1)} EV`,
  operators: [toneRange],
  compile: (graph, range, { picture }) => (picture ? graph.add('toneRange', range, [picture]) : undefined),
};
