import { type Rectangle } from '../../raster/raster';

/** A gap and what is about it, full-size pixels. */
export interface RepairPlace {
  /** nothing is repaired outside of it */
  readonly gap: Rectangle;
  /** with as much around it as may be copied from */
  readonly around: Rectangle;
}

/** how far from a gap is copied, its sizes, and the picture's long edges at least */
const [SIZES, LEAST] = [1.2, 0.05];

/** What is looked at to repair a gap. @param gap the picture where it may lie anywhere */
export function repairPlace(
  gap: Rectangle | undefined,
  { width, height }: { readonly width: number; readonly height: number },
): RepairPlace | undefined {
  const picture = { x: 0, y: 0, width, height };
  const own = gap ? overlapOf(gap, picture) : picture;
  if (!own) return undefined;
  const by = Math.ceil(Math.max(SIZES * Math.max(own.width, own.height), LEAST * Math.max(width, height)));
  const wide = { x: own.x - by, y: own.y - by, width: own.width + 2 * by, height: own.height + 2 * by };
  const around = overlapOf(wide, picture);
  return around && { gap: own, around };
}

function overlapOf(a: Rectangle, b: Rectangle): Rectangle | undefined {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : undefined;
}
