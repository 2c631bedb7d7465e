import { deltaE2000, labOf } from '../../colour/deltaE';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Rectangle } from '../../raster/raster';
import { srgbToLinear } from '../../raster/srgb';
import { pixelOf, turned } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { planeAt } from './canvas';
import { type PanoramaPlan } from './planPanorama';
import { PROJECTIONS } from './projection';

/** How much a panorama's seams show. */
export interface SeamStep {
  /** mean CIEDE2000 of pixel pairs across the seams, and of pairs as far apart beside them */
  readonly across: number;
  readonly beside: number;
  /** mean step of the pairs across the seams in the frames that meet there: what is an edge of the thing itself, and no seam */
  readonly within: number;
  /** the stretch of seam that shows most, full-size pixels of the canvas */
  readonly where?: Rectangle;
}

/** pixels between the two of a pair */
const APART = 4;
/** how far beside the seam pairs are compared with it, pixels */
const BESIDE = 14;
const MOST = 6000;

/**
 * Colour steps across the seams of a finished panorama, against the steps beside them and those that the frames show in the same places: seams are
 * led along the edges of things, which step by themselves.
 * @param images the frames at full size
 */
export function seamStep(
  picture: EncodedImage,
  plan: PanoramaPlan,
  images: readonly EncodedImage[],
  fit: PanoramaFit,
): SeamStep {
  const { labels, gridWidth: w, gridHeight: h, level } = plan;
  const scale = 2 ** level;
  const edges: { x: number; y: number; right: boolean; frames: readonly [number, number] }[] = [];
  for (let y = 0; y + 1 < h; y++)
    for (let x = 0; x + 1 < w; x++) {
      const i = y * w + x;
      if (labels[i] < 0) continue;
      if (labels[i + 1] >= 0 && labels[i + 1] !== labels[i])
        edges.push({
          x: (x + 1) * scale,
          y: (y + 0.5) * scale,
          right: true,
          frames: [labels[i], labels[i + 1]],
        });
      if (labels[i + w] >= 0 && labels[i + w] !== labels[i])
        edges.push({
          x: (x + 0.5) * scale,
          y: (y + 1) * scale,
          right: false,
          frames: [labels[i], labels[i + w]],
        });
    }
  const step = Math.max(1, Math.floor(edges.length / MOST));
  const stepOf = frameSteps(plan, images, fit);
  let [across, beside, within, n] = [0, 0, 0, 0];
  let worst = 0;
  let where: Rectangle | undefined;
  for (let k = 0; k < edges.length; k += step) {
    const { x, y, right, frames } = edges[k];
    const [dx, dy] = right ? [1, 0] : [0, 1];
    const ends = (off: number) =>
      [
        x + dx * (off - APART / 2),
        y + dy * (off - APART / 2),
        x + dx * (off + APART / 2),
        y + dy * (off + APART / 2),
      ] as const;
    const pair = (off: number): number | undefined => difference(picture, ...ends(off));
    const [own, before, after] = [pair(0), pair(-BESIDE), pair(BESIDE)];
    if (own === undefined || before === undefined || after === undefined) continue;
    const shown = frames.flatMap((f) => stepOf(f, ...ends(0)) ?? []);
    const natural = shown.length > 0 ? shown.reduce((a, b) => a + b, 0) / shown.length : 0;
    within += natural;
    across += own;
    beside += (before + after) / 2;
    n++;
    if (own - Math.max(before, after, natural) > worst) {
      worst = own - Math.max(before, after, natural);
      where = { x: x - 60, y: y - 60, width: 120, height: 120 };
    }
  }
  return n === 0
    ? { across: 0, beside: 0, within: 0 }
    : { across: across / n, beside: beside / n, within: within / n, ...(where ? { where } : {}) };
}

/** The colour step that a frame shows between two places of the canvas; undefined where it does not reach both. */
function frameSteps(
  { canvas }: PanoramaPlan,
  images: readonly EncodedImage[],
  { lens, rotations }: PanoramaFit,
) {
  const { toRay } = PROJECTIONS[canvas.projection];
  return (frame: number, x0: number, y0: number, x1: number, y1: number): number | undefined => {
    const rotation = rotations[frame];
    if (!rotation) return undefined;
    const seen = (x: number, y: number): [number, number] | undefined => {
      const ray = toRay(...planeAt(canvas, x, y));
      return ray && pixelOf(lens, ...turned(rotation, ray));
    };
    const [a, b] = [seen(x0, y0), seen(x1, y1)];
    return a && b && difference(images[frame], ...a, ...b);
  };
}

function difference(image: EncodedImage, x0: number, y0: number, x1: number, y1: number): number | undefined {
  const lab = (x: number, y: number): ReturnType<typeof labOf> | undefined => {
    const [px, py] = [Math.round(x), Math.round(y)];
    if (px < 1 || py < 1 || px + 1 >= image.width || py + 1 >= image.height) return undefined;
    const sum = [0, 0, 0];
    for (let j = -1; j <= 1; j++)
      for (let i = -1; i <= 1; i++)
        for (let c = 0; c < 3; c++) sum[c] += image.data[((py + j) * image.width + px + i) * 3 + c];
    const light = sum.map((s) => srgbToLinear(s / 9 / image.white));
    return labOf(light[0], light[1], light[2]);
  };
  const [a, b] = [lab(x0, y0), lab(x1, y1)];
  return a && b && deltaE2000(a, b);
}
