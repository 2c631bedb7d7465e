import { array, boolean } from 'yup';
import { packStroke, type PackedStroke } from '../../mask/packStroke';
import { type Stroke } from '../../mask/stroke';
import { between, oneOf, points, share, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { paintStrokes } from './paintStrokes';
import { addColours, strokeColours } from './strokeColours';

/** What a brush has drawn, stroke after stroke. */
export interface StrokesSettings {
  readonly strokes: readonly Stroke[];
}

/** most strokes of one part: what the gate refuses, no edit may make */
const MOST_STROKES = 5000;

export const strokes: PartKind<StrokesSettings> = {
  kind: 'strokes',
  schema: strict({
    strokes: array(
      strict({
        action: oneOf(['reveal', 'hide']),
        size: between(0, 2),
        softness: share(),
        flow: share(),
        inside: boolean().strict(true).optional(),
        points: points(),
      }),
    )
      .max(MOST_STROKES)
      .required(),
  }),
  plain: { strokes: [] },
  says: ({ strokes: drawn }) =>
    drawn.length === 0
      ? 'nothing painted yet'
      : `${drawn.length} ${drawn.length === 1 ? 'stroke' : 'strokes'}`,
  operators: [paintStrokes, strokeColours],
  compile: (graph, { strokes: drawn }, { longEdge, picture, own = picture }) => {
    const painted = (some: readonly PackedStroke[], below: string): string => {
      const inside = own === undefined ? [] : some.filter((s) => s.inside);
      const colours = inside.map((s) => addColours(graph, s, longEdge, own ?? ''));
      const looked = inside.length > 0 ? [own ?? '', ...colours] : [];
      return graph.add('paintStrokes', { longEdge, strokes: some }, [below, ...looked]);
    };
    const packed = drawn.map(packStroke);
    const earlier = packed.slice(0, -1);
    // the last stroke by itself: while it is drawn, those before it need not be painted again
    return painted(packed.slice(-1), earlier.length > 0 ? painted(earlier, '') : '');
  },
};
