import { type LocalColour } from './localColour';
import { colourDistance, type StartColour, startColour } from './startColour';
import { length2 } from '../../raster/length';

/** A colour and where along a stroke it was taken, fractions of the long edge. */
export interface TakenColour {
  readonly colour: StartColour;
  readonly x: number;
  readonly y: number;
}

/** The picture around a place of a stroke: a square whose middle is that place. */
export interface Patch {
  readonly x: number;
  readonly y: number;
  readonly light: LocalColour;
  /** pixels around the middle that the brush is sure of */
  readonly half: number;
}

/** spreads by which the thing may change from one place of a stroke to the next */
const DRIFT = 3.6;
/** part of a place that must be of the colours known so far */
const MAJORITY = 0.4;
/** spans between two places within which a colour is a neighbour's */
const NEIGHBOURS = 10;

/**
 * Follows a stroke over what it started on: the colour of each place is taken as far as it goes over into those before it, so that a shaded wall is followed,
 * and what lies behind an edge is not, even where the hand slips over it.
 * @param before colours taken earlier on the same stroke
 * @param span between two places, fractions of the long edge
 * @returns those before, and the ones that belong to the same thing
 */
export function coloursAlong(
  before: readonly TakenColour[],
  patches: readonly Patch[],
  span: number,
): readonly TakenColour[] {
  const taken = [...before];
  for (const { x, y, light, half } of patches) {
    const at = discOf(light, half);
    const known = taken.filter((t, n) => n === 0 || length2(t.x - x, t.y - y) < NEIGHBOURS * span);
    const alike =
      taken.length === 0
        ? at
        : at.filter((i) =>
            known.some((t) => colourDistance(t.colour, light.L[i], light.a[i], light.b[i]) < DRIFT),
          );
    if (alike.length >= MAJORITY * at.length) taken.push({ colour: startColour(light, alike), x, y });
  }
  return taken;
}

/** Pixels in a disc about the middle of a square. */
function discOf({ width, height }: LocalColour, half: number): number[] {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const at: number[] = [];
  for (let i = 0; i < width * height; i++) {
    const [dx, dy] = [(i % width) - cx, Math.floor(i / width) - cy];
    if (dx * dx + dy * dy <= half * half) at.push(i);
  }
  return at;
}
