import { deltaE2000, labOf } from '../../colour/deltaE';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Rectangle } from '../../raster/raster';
import { srgbToLinear } from '../../raster/srgb';
import { pixelOf, turned } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type PanoramaCanvas, planeAt } from './canvas';
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

/** A place of a seam, full-size pixels of the canvas, and the two frames that meet there. */
export interface SeamPlace {
  readonly x: number;
  readonly y: number;
  /** unit step across the seam */
  readonly across: readonly [dx: number, dy: number];
  readonly frames: readonly [number, number];
}

/** Places along all seams of a panorama, at most about 6000. */
export function seamPlaces({ labels, gridWidth: w, gridHeight: h, level }: PanoramaPlan): SeamPlace[] {
  const scale = 2 ** level;
  const places: SeamPlace[] = [];
  for (let y = 0; y + 1 < h; y++)
    for (let x = 0; x + 1 < w; x++) {
      const i = y * w + x;
      if (labels[i] < 0) continue;
      const meets = (next: number): boolean => labels[next] >= 0 && labels[next] !== labels[i];
      if (meets(i + 1))
        places.push({
          x: (x + 1) * scale,
          y: (y + 0.5) * scale,
          across: [1, 0],
          frames: [labels[i], labels[i + 1]],
        });
      if (meets(i + w))
        places.push({
          x: (x + 0.5) * scale,
          y: (y + 1) * scale,
          across: [0, 1],
          frames: [labels[i], labels[i + w]],
        });
    }
  const step = Math.max(1, Math.floor(places.length / MOST));
  return places.filter((_, k) => k % step === 0);
}

/** The two pixels of a pair across a seam, or `off` pixels beside it. */
function pairAt({ x, y, across: [dx, dy] }: SeamPlace, off: number) {
  return [
    x + dx * (off - APART / 2),
    y + dy * (off - APART / 2),
    x + dx * (off + APART / 2),
    y + dy * (off + APART / 2),
  ] as const;
}

/**
 * The colour steps that one frame itself shows at the seams, CIEDE2000: NaN at those of other frames and where it does not reach.
 * @param image the frame at full size
 */
export function frameSteps(
  places: readonly SeamPlace[],
  frame: number,
  image: EncodedImage,
  canvas: PanoramaCanvas,
  { lens, rotations }: PanoramaFit,
): Float32Array {
  const { toRay } = PROJECTIONS[canvas.projection];
  const rotation = rotations[frame];
  const seen = (x: number, y: number): [number, number] | undefined => {
    const ray = toRay(...planeAt(canvas, x, y));
    return ray && rotation ? pixelOf(lens, ...turned(rotation, ray)) : undefined;
  };
  return Float32Array.from(places, (place) => {
    if (!place.frames.includes(frame)) return NaN;
    const [x0, y0, x1, y1] = pairAt(place, 0);
    const [a, b] = [seen(x0, y0), seen(x1, y1)];
    return (a && b && difference(image, ...a, ...b)) ?? NaN;
  });
}

/**
 * Colour steps across the seams of a finished panorama, against the steps beside them and those that the frames show in the same places: seams are
 * led along the edges of things, which step by themselves.
 * @param shown [frame] what {@link frameSteps} gives for it
 */
export function seamStep(
  picture: EncodedImage,
  places: readonly SeamPlace[],
  shown: readonly Float32Array[],
): SeamStep {
  let [across, beside, within, n] = [0, 0, 0, 0];
  let worst = 0;
  let where: Rectangle | undefined;
  places.forEach((place, k) => {
    const pair = (off: number): number | undefined => difference(picture, ...pairAt(place, off));
    const [own, before, after] = [pair(0), pair(-BESIDE), pair(BESIDE)];
    if (own === undefined || before === undefined || after === undefined) return;
    const steps = place.frames.map((f) => shown[f][k]).filter((step) => !Number.isNaN(step));
    const natural = steps.length > 0 ? steps.reduce((a, b) => a + b, 0) / steps.length : 0;
    within += natural;
    across += own;
    beside += (before + after) / 2;
    n++;
    if (own - Math.max(before, after, natural) > worst) {
      worst = own - Math.max(before, after, natural);
      where = { x: place.x - 60, y: place.y - 60, width: 120, height: 120 };
    }
  });
  return n === 0
    ? { across: 0, beside: 0, within: 0 }
    : { across: across / n, beside: beside / n, within: within / n, ...(where ? { where } : {}) };
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
