import { array } from 'yup';
import { operator } from '../../graph/operator';
import { maskOf } from '../../graph/wanted';
import { packStroke, type PackedStroke } from '../../mask/packStroke';
import { type Stroke } from '../../mask/stroke';
import { strokeCoverage, touchesGrid } from '../../mask/strokeCoverage';
import { between, oneOf, points, share, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';

/** What a brush has drawn, stroke after stroke. */
export interface StrokesSettings {
  readonly strokes: readonly Stroke[];
}

interface Painted {
  readonly longEdge: number;
  readonly strokes: readonly PackedStroke[];
}

/** Strokes over what was painted before them, or over nothing: reveal m + (1 − m)·a, hide m·(1 − a). */
const paintStrokes = operator<Painted>({
  kind: 'paintStrokes',
  version: 1,
  gives: 'mask',
  run: ([below], { longEdge, strokes }, { level, area }) => {
    const grid = { longEdge, level, ...area };
    const plane = below ? maskOf(below, 'a brush').plane.slice() : new Float32Array(area.width * area.height);
    for (const stroke of strokes) {
      if (!touchesGrid(stroke, grid)) continue;
      const coverage = strokeCoverage(stroke, grid);
      if (stroke.action === 'reveal')
        for (let i = 0; i < plane.length; i++) plane[i] += (1 - plane[i]) * coverage[i];
      else for (let i = 0; i < plane.length; i++) plane[i] *= 1 - coverage[i];
    }
    return { is: 'mask', plane };
  },
});

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
  operators: [paintStrokes],
  compile: (graph, { strokes: drawn }, { longEdge }) => {
    const packed = drawn.map(packStroke);
    const earlier = packed.slice(0, -1);
    // the last stroke by itself: while it is drawn, those before it need not be painted again
    const below = earlier.length > 0 ? graph.add('paintStrokes', { longEdge, strokes: earlier }, ['']) : '';
    return graph.add('paintStrokes', { longEdge, strokes: packed.slice(-1) }, [below]);
  },
};
