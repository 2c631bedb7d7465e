import { deltaE2000, type Lab, labOf } from '../../colour/deltaE';
import { type EncodedImage } from '../../raster/encodedImage';
import { IDENTITY } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { srgbToLinear } from '../../raster/srgb';
import { frameOnGrid, type GridFrame } from '../frameOnGrid';

/** How much the seams of a joined picture show. */
export interface SeamVisibility {
  /** mean CIEDE2000 of cells that lie across a seam from each other, and of cells as far apart along it */
  readonly across: number;
  readonly along: number;
  /** mean of what the seam adds to the edges that the frames themselves have there, CIEDE2000 */
  readonly added: number;
  /** the stretch of seam that adds most, full-size pixels */
  readonly where?: Rectangle;
}

/** cells of a stretch that is pointed at */
const STRETCH = 24;

/**
 * Looks at a joined picture along its seams.
 * @param label [cell] which frame makes it
 * @param levels the joined picture and its halvings
 * @returns undefined when one frame makes all of it
 */
export function seamVisibility(
  label: Int16Array,
  frames: readonly GridFrame[],
  levels: readonly EncodedImage[],
  grid: ReducedGrid,
): SeamVisibility | undefined {
  const { width: w, height: h, level } = grid;
  const joined = frameOnGrid(levels, IDENTITY, grid);
  const [stretchesAcross, scale] = [Math.ceil(w / STRETCH), 2 ** level];
  const stretches = new Map<number, { sum: number; count: number }>();
  let [across, along, added, count, beside] = [0, 0, 0, 0, 0];
  for (let y = 1; y + 2 < h; y++)
    for (let x = 1; x + 2 < w; x++)
      for (const [step, other] of [
        [1, w],
        [w, 1],
      ]) {
        const i = y * w + x;
        const j = i + step;
        if (label[i] === label[j]) continue;
        // the cells on the seam itself are mixed
        const [p, q] = [i - step, j + step];
        const own = Math.max(stepOf(frames[label[i]], p, q), stepOf(frames[label[j]], p, q));
        const here = stepOf(joined, p, q);
        const adds = Math.max(0, here - own);
        across += here;
        added += adds;
        count++;
        if (p + 3 * other < w * h && q + 3 * other < w * h) {
          along += stepOf(joined, p, p + 3 * other) + stepOf(joined, q, q + 3 * other);
          beside += 2;
        }
        const key = Math.floor(y / STRETCH) * stretchesAcross + Math.floor(x / STRETCH);
        const stretch = stretches.get(key) ?? { sum: 0, count: 0 };
        stretches.set(key, { sum: stretch.sum + adds, count: stretch.count + 1 });
      }
  if (count === 0) return undefined;
  const [worst] = [...stretches].sort((a, b) => b[1].sum - a[1].sum)[0];
  const side = STRETCH * scale;
  return {
    across: across / count,
    along: beside > 0 ? along / beside : 0,
    added: added / count,
    where: {
      x: (worst % stretchesAcross) * side,
      y: Math.floor(worst / stretchesAcross) * side,
      width: side,
      height: side,
    },
  };
}

const colourOf = ({ planes }: GridFrame, i: number): Lab => {
  const [r, g, b] = planes.map((p) => srgbToLinear(Math.min(1, Math.max(0, p[i]))));
  return labOf(r, g, b);
};

const stepOf = (frame: GridFrame, i: number, j: number): number =>
  deltaE2000(colourOf(frame, i), colourOf(frame, j));
