import { deltaE2000, labOf } from '../colour/deltaE';
import { idleStrokes } from '../mask/idleStrokes';
import { type PackedStroke } from '../mask/packStroke';
import { srgbToLinear } from '../raster/srgb';
import { drawMask, drawPicture, drawPlace } from './drawPicture';
import { plainWorld } from './followGraph';
import { tellingSquares } from './tellingSquares';
import { type DrawnGraph } from './viewScene';

/** A change of the picture: what it is without it, and with it. */
export interface ChangeNodes {
  readonly id: string;
  /** it shows in the finest detail only */
  readonly finest?: boolean;
  readonly without: string;
  readonly with: string;
}

/** What is looked at for whether it does anything. */
export interface EffectScene {
  readonly drawn: DrawnGraph;
  /** of the grid of all of it, full-size pixels */
  readonly width: number;
  readonly height: number;
  readonly changes: readonly ChangeNodes[];
  readonly masks: readonly { readonly id: string; readonly mask: string }[];
  /** parts of regions that are painted */
  readonly painted: readonly PaintedPart[];
}

/** A part of a region that is painted. */
export interface PaintedPart {
  /** of the region, and which of its parts */
  readonly id: string;
  readonly part: number;
  readonly strokes: readonly PackedStroke[];
}

/** What changes and regions do. */
export interface PictureEffects {
  /** largest ΔE2000 that each change makes anywhere, and the share of the picture in which it makes more than one */
  readonly changes: readonly { readonly id: string; readonly most: number; readonly share: number }[];
  /** share of the picture that each region covers */
  readonly masks: readonly { readonly id: string; readonly covered: number }[];
  /** strokes that change nothing, by their places in their part, of so many; only parts that have some */
  readonly strokes: readonly {
    readonly id: string;
    readonly part: number;
    readonly count: number;
    readonly idle: readonly number[];
  }[];
}

/** long edge at which effects are looked at, pixels */
const LOOKED_AT = 640;
/** pixels whose difference is told as ΔE2000: those with the largest in codes, and as many spread over the rest */
const TOLD = 1500;

/**
 * What each change of a picture does anywhere, and how much each region covers, at a small size; of what lies in the finest detail, in up to
 * sixteen places at full size.
 */
export function pictureEffects({
  drawn,
  width,
  height,
  changes,
  masks,
  painted,
}: EffectScene): PictureEffects {
  const level = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / LOOKED_AT)));
  const area = { x: 0, y: 0, width: Math.max(1, width >> level), height: Math.max(1, height >> level) };
  const world = plainWorld(drawn.made);
  const known = new Map<string, readonly Float32Array[]>();
  const planesOf = (node: string): readonly Float32Array[] => {
    const planes = known.get(node) ?? drawPicture(drawn, node, level, area, 'bilinear', world);
    known.set(node, planes);
    return planes;
  };
  const masked = new Map(masks.map(({ id, mask }) => [id, mask]));
  const maskOf = (node: string): Float32Array => drawMask(drawn, node, level, area, 'bilinear', world);
  const finestOf = ({ id, without, with: after }: ChangeNodes): ReturnType<typeof differenceOf> => {
    const own = masked.get(id);
    const small = {
      ...area,
      plane: planesOf(without)[1],
      ...(own === undefined ? {} : { mask: maskOf(own) }),
    };
    const squares = tellingSquares(small, level, { width, height });
    if (squares.length === 0) return { most: 0, share: 0 };
    const at = (node: string): Float32Array[] =>
      sideBySide(
        squares.map((square) =>
          drawPlace(drawn, node, { level: 0, area: square, kernel: 'bilinear' }, world),
        ),
      );
    return differenceOf(at(without), at(after));
  };
  return {
    changes: changes.map((change) => ({
      id: change.id,
      ...(change.finest ? finestOf(change) : differenceOf(planesOf(change.without), planesOf(change.with))),
    })),
    masks: masks.map(({ id, mask }) => {
      const plane = maskOf(mask);
      return { id, covered: plane.reduce((sum, v) => sum + v, 0) / plane.length };
    }),
    strokes: painted.flatMap(({ id, part, strokes }) => {
      const idle = idleStrokes(strokes, { width, height });
      return idle.length > 0 ? [{ id, part, count: strokes.length, idle }] : [];
    }),
  };
}

/** The pixels of several parts as one plane a channel. */
function sideBySide(parts: readonly (readonly Float32Array[])[]): Float32Array[] {
  const size = parts.reduce((sum, [red]) => sum + red.length, 0);
  return parts[0].map((_, c) => {
    const plane = new Float32Array(size);
    let at = 0;
    for (const part of parts) {
      plane.set(part[c], at);
      at += part[c].length;
    }
    return plane;
  });
}

/** Largest ΔE2000 of two pictures, and the share of them that differs by more than one. */
function differenceOf(
  a: readonly Float32Array[],
  b: readonly Float32Array[],
): { readonly most: number; readonly share: number } {
  const by = Float32Array.from(a[0], (_, i) =>
    Math.max(Math.abs(a[0][i] - b[0][i]), Math.abs(a[1][i] - b[1][i]), Math.abs(a[2][i] - b[2][i])),
  );
  const limit = Float32Array.from(by).sort()[Math.max(0, by.length - TOLD)];
  const step = Math.max(1, Math.floor(by.length / TOLD));
  const lab = (planes: readonly Float32Array[], i: number) => {
    const [r, g, b2] = planes.map((p) => srgbToLinear(Math.min(1, Math.max(0, p[i]))));
    return labOf(r, g, b2);
  };
  let [most, more, told] = [0, 0, 0];
  for (let i = 0; i < by.length; i++) {
    const isSample = i % step === 0;
    if (!isSample && (by[i] < limit || by[i] === 0)) continue;
    const difference = by[i] === 0 ? 0 : deltaE2000(lab(a, i), lab(b, i));
    most = Math.max(most, difference);
    if (!isSample) continue;
    told++;
    if (difference > 1) more++;
  }
  return { most, share: more / told };
}
