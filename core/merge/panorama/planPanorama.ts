import { type FrameOnGrid } from '../../match/matchNeighbours';
import { encodedGain } from '../../raster/encodedGain';
import { decodePlane, encodeClipped } from '../../raster/srgb';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3 } from '../../raster/matrix3';
import { type Rectangle, sharedBytes } from '../../raster/raster';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type PanoramaCanvas, reducedCanvas } from './canvas';
import { type EvenGains, evenGains } from './evenGains';
import { type DrawnFrame, frameOnCanvas, reducedLens } from './frameOnCanvas';
import { largestBox } from './largestBox';
import { seamLabels } from './seamLabels';

/** Everything that is decided before a panorama is drawn. */
export interface PanoramaPlan {
  readonly canvas: PanoramaCanvas;
  readonly gains: EvenGains;
  /** halvings from the canvas to the grid of the seams */
  readonly level: number;
  readonly gridWidth: number;
  readonly gridHeight: number;
  /** [cell] the frame that makes it, −1 for none */
  readonly labels: Int16Array;
}

const GRID_CELLS = 120_000;
const RINGS = 4096;
/** a hundredth of a stop in the corners is not seen */
const LEAST_VIGNETTE = 0.01;

/** Works out gains and seams of a fitted set on its canvas. @param levels [frame] the picture and its halvings, largest first */
export function planPanorama(
  levels: readonly (readonly EncodedImage[])[],
  fit: PanoramaFit,
  canvas: PanoramaCanvas,
): PanoramaPlan {
  const { drawn, grid, level } = drawnSmall(levels, fit, canvas);
  const gains = evenGains(drawn);
  drawn.forEach((frame, i) => frame && evenFrame(frame, gains, i));
  const labels = seamLabels(drawn, grid.width, grid.height, joiningOrder(fit.rotations));
  return { canvas, gains, level, gridWidth: grid.width, gridHeight: grid.height, labels };
}

/** All frames on the canvas, as small as gains and seams are decided on. */
function drawnSmall(
  levels: readonly (readonly EncodedImage[])[],
  fit: PanoramaFit,
  canvas: PanoramaCanvas,
): { drawn: (DrawnFrame | undefined)[]; grid: PanoramaCanvas; level: number } {
  const level = Math.max(0, Math.ceil(Math.log2(Math.sqrt((canvas.width * canvas.height) / GRID_CELLS))));
  const grid = reducedCanvas(canvas, level);
  const shrink = Math.max(0, Math.round(Math.log2(fit.lens.focalPx / grid.scale)));
  const area = { x: 0, y: 0, width: grid.width, height: grid.height };
  const drawn = fit.rotations.map((rotation, i) => {
    if (!rotation) return undefined;
    const own = Math.min(shrink, levels[i].length - 1);
    return frameOnCanvas(levels[i][own], reducedLens(fit.lens, own), rotation, grid, area, {
      kernel: 'lanczos',
      radius: true,
    });
  });
  return { drawn, grid, level };
}

/** The frames of a panorama on one small grid to be compared, as they are but for the light that the lens lost; undefined for strays. */
export function panoramaFrames(
  levels: readonly (readonly EncodedImage[])[],
  fit: PanoramaFit,
  canvas: PanoramaCanvas,
): (FrameOnGrid | undefined)[] {
  const { drawn } = drawnSmall(levels, fit, canvas);
  const gains = { ...evenGains(drawn), stops: drawn.map(() => [0, 0, 0] as const) };
  return drawn.map((frame, i) => {
    if (!frame) return undefined;
    evenFrame(frame, gains, i);
    const shows = Uint8Array.from(frame.inside, (v) => (v >= 1 ? 1 : 0));
    return { planes: frame.planes, shows, stops: 0 };
  });
}

/** From one side to the other, so that each frame meets what it overlaps. */
function joiningOrder(rotations: readonly (Matrix3 | null)[]): number[] {
  const ahead = (R: Matrix3): readonly number[] => [R[6], R[7], R[8]];
  const present = rotations.flatMap((R, i) => (R ? [{ i, z: ahead(R) }] : []));
  const spread = (of: (z: readonly number[]) => number): number => {
    const values = present.map((p) => of(p.z));
    return Math.max(...values) - Math.min(...values);
  };
  const turn = (z: readonly number[]): number => Math.atan2(z[0], z[2]);
  const tilt = (z: readonly number[]): number => Math.asin(z[1]);
  const key =
    spread(turn) >= spread(tilt)
      ? (z: readonly number[]): number => turn(z) + 0.01 * tilt(z)
      : (z: readonly number[]): number => tilt(z) + 0.01 * turn(z);
  return present.sort((p, q) => key(p.z) - key(q.z)).map((p) => p.i);
}

/** Whether there is a vignette to take back. */
export function hasVignette({ vignette }: EvenGains): boolean {
  return Math.abs(vignette) > LEAST_VIGNETTE;
}

/** Applies a frame's gains and takes the vignette back, in place. */
export function evenFrame({ planes, radius, inside }: DrawnFrame, gains: EvenGains, frame: number): void {
  const { stops, vignette } = gains;
  const least = 1e-3;
  if (!hasVignette(gains))
    planes.forEach((plane, c) => {
      if (Math.abs(stops[frame][c]) < least) return;
      const brighten = encodedGain(stops[frame][c]);
      for (let i = 0; i < plane.length; i++) if (inside[i] > -64) plane[i] = brighten(plane[i]);
    });
  else {
    planes.forEach((plane, c) => {
      const gain = 2 ** stops[frame][c];
      // light lost towards the corners, in steps fine enough not to show
      const rings = Float64Array.from(
        { length: RINGS + 2 },
        (_, i) => gain * Math.fround(2 ** (vignette * (i / RINGS) ** 2)),
      );
      decodePlane(plane);
      brightenRings(plane, rings, radius, inside);
    });
  }
}

/** Multiplies light by the gain of its distance from the middle and encodes it, where the frame shows something. */
function brightenRings(
  plane: Float32Array,
  rings: Float64Array,
  radius: Float32Array,
  inside: Float32Array,
): void {
  const last = rings.length - 1;
  for (let i = 0; i < plane.length; i++) {
    if (!(inside[i] > -64)) continue;
    const ring = (radius[i] * RINGS + 0.5) | 0;
    plane[i] = encodeClipped(plane[i] * rings[ring < last ? ring : last]);
  }
}

/** Tiles of the canvas, each to be drawn by one job. */
export function panoramaTiles({ width, height }: PanoramaCanvas, size = 1024): Rectangle[] {
  const tiles: Rectangle[] = [];
  for (let y = 0; y < height; y += size)
    for (let x = 0; x < width; x += size)
      tiles.push({ x, y, width: Math.min(size, width - x), height: Math.min(size, height - y) });
  return tiles;
}

/** [frame] where each frame makes the picture, 0 or 255 for each pixel of the half-size picture. */
export function panoramaShares(plan: PanoramaPlan, frames: number): Uint8Array[] {
  const { canvas, labels, gridWidth, gridHeight, level } = plan;
  const [w, h] = [(canvas.width + 1) >> 1, (canvas.height + 1) >> 1];
  const shares = Array.from({ length: frames }, () => new Uint8Array(sharedBytes(w * h)));
  const shift = Math.max(0, level - 1);
  for (let y = 0, i = 0; y < h; y++) {
    const row = Math.min(gridHeight - 1, y >> shift) * gridWidth;
    for (let x = 0; x < w; x++, i++) {
      const label = labels[row + Math.min(gridWidth - 1, x >> shift)];
      if (label >= 0) shares[label][i] = 255;
    }
  }
  return shares;
}

/** The largest level rectangle of the canvas that the frames cover. @returns full-size pixels of the canvas; all of it when nothing is */
export function panoramaCrop(plan: PanoramaPlan, ratio: number | 'free'): Rectangle {
  const { canvas, labels, gridWidth: w, gridHeight: h, level } = plan;
  const covered = Uint8Array.from(labels, (_, i) => {
    const x = i % w;
    // a cell counts when it and its neighbours are seen: its own corners may not be
    for (const j of [i, x > 0 ? i - 1 : -1, x + 1 < w ? i + 1 : -1, i - w, i + w])
      if (j < 0 || j >= labels.length || labels[j] < 0) return 0;
    return 1;
  });
  const box = largestBox(covered, w, h, ratio);
  if (!box) return { x: 0, y: 0, width: canvas.width, height: canvas.height };
  const k = 2 ** level;
  const x = box.x * k;
  const y = box.y * k;
  return {
    x,
    y,
    width: Math.min(canvas.width - x, box.width * k),
    height: Math.min(canvas.height - y, box.height * k),
  };
}

/** Share of the covered canvas that a rectangle keeps, 0…1. */
export function keptShare({ labels, gridWidth: w, level }: PanoramaPlan, box: Rectangle): number {
  let [all, kept] = [0, 0];
  const k = 2 ** level;
  labels.forEach((label, i) => {
    if (label < 0) return;
    all++;
    const [x, y] = [(i % w) * k, Math.floor(i / w) * k];
    if (x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height) kept++;
  });
  return all > 0 ? kept / all : 0;
}
