import { type Kernels, kernels } from '@/core/kernels/kernels';
import { type LightPatch, type SceneLight, wholeLight } from './sceneView';

/** Lens blur, standard deviation in frame pixels: FWHM = 2.3548 σ = 1.06 px. */
export const LENS_SIGMA = 0.45;
/** least blur in scene pixels for which samples of the render stay free of its grid */
const LEAST_SCENE_SIGMA = 0.55;

const PHASES = 1024;

/** Samples on each side: the first one left out has less than 3 ‰ of the middle's weight, which moves no point by 0.005 pixels. */
function gaussianReach(sigma: number): number {
  return Math.ceil(3.4 * sigma - 0.5);
}

/** Gaussian weights that sum to 1 for every 1/1024 of a pixel from −½ to ½ off the middle tap. */
function gaussianPhases(sigma: number, reach: number): Float64Array {
  const taps = 2 * reach + 1;
  const table = new Float64Array((PHASES + 1) * taps);
  for (let p = 0; p <= PHASES; p++) {
    const offset = p / PHASES - 0.5;
    let sum = 0;
    for (let t = 0; t < taps; t++) {
      const d = t - reach - offset;
      sum += table[p * taps + t] = Math.exp((-0.5 * d * d) / (sigma * sigma));
    }
    for (let t = 0; t < taps; t++) table[p * taps + t] /= sum;
  }
  return table;
}

/** Writes the scene pixel that a frame pixel looks at into `at[0]`, `at[1]`. */
export type LooksAt = (x: number, y: number, at: Float64Array) => void;

/** Where every pixel of a frame looks: scene column and row, one after the other. */
export interface Looks {
  readonly width: number;
  readonly height: number;
  /** `2 · width · height` places, row by row */
  readonly places: Float64Array;
}

/** Follows a map for every pixel of a frame. */
export function looksOfFrame(width: number, height: number, looksAt: LooksAt): Looks {
  const places = new Float64Array(2 * width * height);
  const at = new Float64Array(2);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      looksAt(x, y, at);
      places[o++] = at[0];
      places[o++] = at[1];
    }
  return { width, height, places };
}

/** taps that the kernel holds */
const KERNEL_TAPS = 8;
/** pixels of the frame that the kernel makes at a time */
const CHUNK = 1 << 16;
/** pixels of the scene that are laid beside each other at a time */
const BESIDE = 1 << 14;

/** A point spread as a table for every fraction of a pixel. */
interface Spread {
  readonly table: Float64Array;
  readonly reach: number;
}

/** @param wished standard deviation in scene pixels; raised to what keeps the render's grid out */
export function spreadOf(wished: number): Spread {
  const sigma = Math.max(LEAST_SCENE_SIGMA, wished);
  const reach = gaussianReach(sigma);
  return { table: gaussianPhases(sigma, reach), reach };
}

/**
 * Light of the scene on the pixels of a frame through a Gaussian point spread; borders are continued.
 * @param looks one for all planes, or one for each
 * @param wished point spread, standard deviation in scene pixels; raised to what keeps the render's grid out
 */
export function gatherLight(
  scene: SceneLight,
  looks: Looks | readonly Looks[],
  wished: number,
): Float32Array[] {
  const spread = spreadOf(wished);
  const compiled = 2 * spread.reach + 1 <= KERNEL_TAPS ? kernels() : undefined;
  const { width: W, height: H } = scene.light;
  if (compiled && 'places' in looks)
    return gatherByKernel(compiled, scene.light.planes, W, H, looks, spread, scene.over);
  const { planes } = wholeLight(scene);
  const each = 'places' in looks ? planes.map(() => looks) : looks;
  if (!compiled) return planes.map((plane, c) => plainGather(plane, W, H, each[c], spread));
  return planes.flatMap((plane, c) => gatherByKernel(compiled, [plane], W, H, each[c], spread));
}

/**
 * Lays red, green and blue beside each other in the kernels' memory, a part of the planes after the other.
 * @param source takes 16 bytes a pixel
 */
export function layBeside(
  k: Kernels,
  planes: readonly Float32Array[],
  source: number,
  from: number,
  to: number,
): void {
  k.borrow(() => {
    const room = Math.min(BESIDE, to - from);
    const part = k.take(12 * room);
    for (let at = from; at < to; at += room) {
      const count = Math.min(room, to - at);
      planes.forEach((plane, c) => k.floats(part + 4 * c * room, count).set(plane.subarray(at, at + count)));
      k.layBeside(part, 4 * room, count, source + 16 * (at - from));
    }
  });
}

function gatherByKernel(
  k: Kernels,
  planes: readonly Float32Array[],
  W: number,
  H: number,
  { width, height, places }: Looks,
  { table, reach }: Spread,
  over: readonly LightPatch[] = [],
): Float32Array[] {
  const n = width * height;
  const out = planes.map(() => new Float32Array(n));
  const taps = 2 * reach + 1;
  const rows = new Float32Array((PHASES + 1) * KERNEL_TAPS);
  for (let p = 0; p <= PHASES; p++) rows.set(table.subarray(p * taps, (p + 1) * taps), p * KERNEL_TAPS);
  k.borrow(() => {
    const weights = k.upload(rows);
    const source = planes.length === 1 ? k.upload(planes[0]) : k.take(16 * W * H);
    const at = k.take(16 * CHUNK);
    const made = k.take(4 * CHUNK * planes.length);
    if (planes.length === 3) {
      layBeside(k, planes, source, 0, W * H);
      for (const { left, top, light } of over)
        for (let y = 0; y < light.height; y++)
          layBeside(
            k,
            light.planes,
            source + 16 * ((top + y) * W + left),
            y * light.width,
            (y + 1) * light.width,
          );
    }
    for (let from = 0; from < n; from += CHUNK) {
      const count = Math.min(CHUNK, n - from);
      const part = places.subarray(2 * from, 2 * (from + count));
      k.bytes(at, 16 * count).set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength));
      if (planes.length === 3)
        k.gatherColours(source, W, H, at, count, weights, PHASES, taps, made, 4 * CHUNK);
      else k.gatherSpread(source, W, H, at, count, weights, PHASES, taps, made);
      out.forEach((plane, c) => plane.set(k.floats(made + 4 * CHUNK * c, count), from));
    }
  });
  return out;
}

/** The plain form of the kernel, which it is held against. */
export function plainGather(
  plane: Float32Array,
  W: number,
  H: number,
  { width, height, places }: Looks,
  { table: spread, reach }: Spread,
): Float32Array {
  const n = width * height;
  const out = new Float32Array(n);
  const taps = 2 * reach + 1;
  for (let o = 0; o < n; o++) {
    const u = places[2 * o];
    const v = places[2 * o + 1];
    const iu = Math.floor(u + 0.5);
    const iv = Math.floor(v + 0.5);
    const px = (((u - iu + 0.5) * PHASES + 0.5) | 0) * taps;
    const py = (((v - iv + 0.5) * PHASES + 0.5) | 0) * taps;
    const left = iu - reach;
    const inside = left >= 0 && left + taps <= W;
    let sum = 0;
    for (let j = 0; j < taps; j++) {
      const line = iv - reach + j;
      const row = (line < 0 ? 0 : line >= H ? H - 1 : line) * W;
      let along = 0;
      if (inside) for (let i = 0, at = row + left; i < taps; i++, at++) along += spread[px + i] * plane[at];
      else
        for (let i = 0; i < taps; i++)
          along += spread[px + i] * plane[row + Math.max(0, Math.min(W - 1, left + i))];
      sum += spread[py + j] * along;
    }
    out[o] = sum;
  }
  return out;
}
