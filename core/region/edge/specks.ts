import { type Rectangle } from '../../raster/raster';

/** Small islands of one kind in a region. */
export interface Specks {
  readonly count: number;
  /** radius of a disc as large as the largest, pixels of full size */
  readonly largest: number;
  /** where they lie, the largest first, pixels of full size */
  readonly places: readonly Rectangle[];
}

/** Holes within a region, and crumbs outside of it. */
export interface RegionSpecks {
  readonly holes: Specks;
  readonly crumbs: Specks;
}

/** an island smaller than a disc of this radius is no part that was meant, share of the long edge */
const SMALL = 0.006;
/** places that are told */
const TOLD = 8;

interface Island extends Rectangle {
  readonly area: number;
}

/** Islands of a region that are too small to be meant: holes in what it covers, crumbs beside it. @param size pixels of full size to one of the mask */
export function regionSpecks(mask: Float32Array, width: number, height: number, size: number): RegionSpecks {
  const limit = Math.PI * (SMALL * Math.max(width, height)) ** 2;
  const of = (inside: boolean): Specks => {
    const small = islands(mask, width, height, inside)
      .filter(({ area }) => area < limit)
      .sort((a, b) => b.area - a.area);
    return {
      count: small.length,
      largest: small.length > 0 ? size * Math.sqrt(small[0].area / Math.PI) : 0,
      places: small.slice(0, TOLD).map((r) => ({
        ...{ x: r.x * size, y: r.y * size, width: r.width * size, height: r.height * size },
      })),
    };
  };
  return { holes: of(false), crumbs: of(true) };
}

/** Parts of a mask that hang together along their sides: those above a half, or those below. What touches the border may go on beyond it. */
function islands(mask: Float32Array, width: number, height: number, inside: boolean): Island[] {
  const seen = Uint8Array.from(mask, (v) => (v >= 0.5 === inside ? 0 : 1));
  const out: Island[] = [];
  const todo = new Int32Array(width * height);
  for (let start = 0; start < seen.length; start++) {
    if (seen[start]) continue;
    seen[start] = 1;
    todo[0] = start;
    let [x0, y0, x1, y1] = [width, height, 0, 0];
    let count = 1;
    for (let k = 0; k < count; k++) {
      const i = todo[k];
      const [x, y] = [i % width, Math.floor(i / width)];
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
      for (const [next, isThere] of [
        [i - 1, x > 0],
        [i + 1, x < width - 1],
        [i - width, y > 0],
        [i + width, y < height - 1],
      ] as const)
        if (isThere && !seen[next]) {
          seen[next] = 1;
          todo[count++] = next;
        }
    }
    if (x0 > 0 && y0 > 0 && x1 < width - 1 && y1 < height - 1)
      out.push({ x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1, area: count });
  }
  return out;
}
