import { operator } from '../../graph/operator';
import { coveringAt, cutPlane, resampled } from '../../graph/resample';
import { type At, type Value } from '../../graph/tile';
import { lightOf, maskOf } from '../../graph/wanted';
import { type TakenColour } from '../../mask/inside/coloursAlong';
import { LIKENESS_REACH, likeness } from '../../mask/inside/likeness';
import { COLOUR_REACH, type LocalColour, localColour } from '../../mask/inside/localColour';
import { placesAlong } from '../../mask/inside/placesAlong';
import { type PackedStroke } from '../../mask/packStroke';
import { strokeCoverage, touchesGrid } from '../../mask/strokeCoverage';
import { detailLevel } from '../detailLevel';
import { pixelAt, takenOf } from './strokeColours';

interface Painted {
  readonly longEdge: number;
  readonly strokes: readonly PackedStroke[];
}

/** radii of the brush around a place in which its colour counts, besides the way to the next one */
const NEAR = 2;

/** What stays inside is told at the size at which detail is measured, so that a small view and the delivered file agree. */
const toldAt = (longEdge: number, at: At): At =>
  coveringAt(at, Math.max(at.level, detailLevel(longEdge)), COLOUR_REACH + LIKENESS_REACH);

const inside = ({ strokes }: Painted): readonly PackedStroke[] => strokes.filter((s) => s.inside);

/**
 * Strokes over what was painted before them, or over nothing: reveal m + (1 − m)·a, hide m·(1 − a). Inputs: what was painted before; and, where
 * strokes stay inside what they started on, the picture and the colours of each of these.
 */
export const paintStrokes = operator<Painted>({
  kind: 'paintStrokes',
  version: 1,
  gives: 'mask',
  works: 'linear',
  needs: (settings, at, input) => {
    if (input === 0) return at;
    const grid = { longEdge: settings.longEdge, level: at.level, ...at.area };
    const own = inside(settings);
    const isNear = input === 1 ? own.some((s) => touchesGrid(s, grid)) : touchesGrid(own[input - 2], grid);
    if (!isNear) return undefined;
    // the colours are the same from wherever they are asked for
    return input === 1
      ? toldAt(settings.longEdge, at)
      : { level: 0, kernel: at.kernel, area: { x: 0, y: 0, width: 1, height: 1 } };
  },
  run: ([below, picture, ...colours], settings, at) => {
    const { longEdge, strokes } = settings;
    const { level, area } = at;
    const grid = { longEdge, level, ...area };
    const plane = below ? maskOf(below, 'a brush').plane.slice() : new Float32Array(area.width * area.height);
    const told = toldAt(longEdge, at);
    let local: LocalColour | undefined;
    let count = -1;
    for (const stroke of strokes) {
      if (stroke.inside) count++;
      if (!touchesGrid(stroke, grid)) continue;
      const coverage = strokeCoverage(stroke, grid);
      if (stroke.inside && picture) {
        local ??= localOf(picture, told);
        const like = likenessAt(local, told, stroke, longEdge, takenOf(colours[count]));
        const here = told.level === level ? cutPlane(like, told.area, area) : resampled(like, told, at);
        for (let i = 0; i < plane.length; i++) coverage[i] *= here[i];
      }
      if (stroke.action === 'reveal')
        for (let i = 0; i < plane.length; i++) plane[i] += (1 - plane[i]) * coverage[i];
      else for (let i = 0; i < plane.length; i++) plane[i] *= 1 - coverage[i];
    }
    return { is: 'mask', plane };
  },
});

const localOf = (picture: Value, { area }: At): LocalColour =>
  localColour(lightOf(picture, 'a brush').planes, area.width, area.height);

function likenessAt(
  local: LocalColour,
  { level, area }: At,
  stroke: PackedStroke,
  longEdge: number,
  colours: readonly TakenColour[],
): Float32Array {
  const { span } = placesAlong(stroke);
  const near = ((NEAR * stroke.size) / 2 + span) * (longEdge / 2 ** level);
  const placed = colours.map(({ colour, x, y }) => ({
    colour,
    x: pixelAt(x, longEdge, level) - area.x,
    y: pixelAt(y, longEdge, level) - area.y,
  }));
  return likeness(local, placed, near);
}
