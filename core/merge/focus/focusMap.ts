import { boxMean, guidedBy } from '../../mask/guidedFilter';
import { sharedFloats } from '../../raster/raster';
import { type ChosenWeights } from '../blendWeights';
import { type FocusEnergy } from './focusEnergy';

/** Which frame is sharp where. */
export interface FocusMap extends ChosenWeights {
  /** [cell] place in the order of the frames, 0 … frames − 1, fractions between two */
  readonly depth: Float32Array;
  /** [cell] how surely it is known, 0…1 */
  readonly confidence: Float32Array;
  /** [cell] 1 where there is structure that no frame shows sharp */
  readonly unsharp: Uint8Array;
}

/** windows over which a place asks its surroundings, cells; the wide ones on a grid a quarter as fine */
const NEAR = [3, 8] as const;
const FAR = [6, 18] as const;
const COARSER = 4;
/** variance of the guide under which the map is kept even */
const EVEN = 4e-4;
/** energy of structure that counts, over that of the noise, and at least (0.04 of white)² */
const STRUCTURE = 4;
const LEAST = 1.6e-3;
/**
 * Structure that is sharp keeps at least this share of its coarse energy in the finest step: measured on the stand-in scene, 98 % of places
 * pass as they are, and a quarter after a blur of σ = 1.6 px.
 */
const SHARP_SHARE = 0.013;
/** what the mean of a cell's energy keeps of noise that was taken away but never below zero (measured) */
const LEFT_OF_NOISE = 0.3;
/** window in which that is asked, cells */
const ASKED = 8;
/**
 * Heavy blur takes the structure of four pixels too; it is seen by the share that steps of four pixels have of the energy in steps of
 * sixteen. Measured on the stand-in scenes: sharp places from 0.085 up (98 %), 95 % of those
 * blurred by σ = 5 px under 0.042.
 */
const WIDE_SHARE = 0.06;
const WIDE_LEAST = 6e-4;
const WIDE_ASKED = 16;

/**
 * The depth map of a focus set: each frame's share of the energy, regularised by filtering it along the edges of the picture (cost-volume
 * filtering: Rhemann et al. 2011, with the guided filter of He, Sun & Tang 2010). A place without structure takes the answer of ever wider
 * surroundings, by how surely they know. Frames that are equally sharp share a place, which lowers its noise.
 */
export function focusMap(frames: readonly FocusEnergy[]): FocusMap {
  const { width: w, height: h, level } = frames[0];
  const n = w * h;
  const smooth = frames.map((f) =>
    boxMean(
      f.fine.map((v) => (v > 0 ? v : 0)),
      w,
      h,
      1,
    ),
  );
  const { guide, sure, shares } = ownShares(frames, smooth, n);
  const mixed = shares.map(() => new Float32Array(n));
  const left = new Float32Array(n).fill(1);
  for (const reach of NEAR) ask(mixed, left, answersOf(shares, sure, guide, w, h, reach), false);
  const small = (plane: Float32Array): Float32Array => shrunk(plane, w, h);
  const [sw, sh] = [Math.ceil(w / COARSER), Math.ceil(h / COARSER)];
  // shares count by how sure they are, so that smooth sky does not dilute the twig before it
  const heavy = shares.map((share) => small(share.map((v, i) => v * sure[i])));
  const smallSure = small(sure);
  const smallGuide = small(guide);
  const smallShares = heavy.map((share) => share.map((v, i) => (smallSure[i] > 1e-9 ? v / smallSure[i] : 0)));
  FAR.forEach((reach, k) => {
    const { known, answers } = answersOf(smallShares, smallSure, smallGuide, sw, sh, reach);
    const wide = (plane: Float32Array): Float32Array => widened(plane, sw, sh, w, h);
    ask(mixed, left, { known: wide(known), answers: answers.map(wide) }, k === FAR.length - 1);
  });
  const planes = mixed.map(() => sharedFloats(n));
  const depth = sharedFloats(n);
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let f = 0; f < mixed.length; f++)
      sum += planes[f][i] = frames[f].fine[i] < 0 ? 0 : mixed[f][i] + 1e-12;
    for (let f = 0; f < mixed.length; f++) {
      planes[f][i] = sum > 0 ? planes[f][i] / sum : f === 0 ? 1 : 0;
      depth[i] += f * planes[f][i];
    }
  }
  return { width: w, height: h, level, planes, depth, confidence: sure, unsharp: unsharpCells(frames, w, h) };
}

/** What each place says by itself: a picture of the sharpest, how surely it speaks, and each frame's share. */
function ownShares(
  frames: readonly FocusEnergy[],
  smooth: readonly Float32Array[],
  n: number,
): { guide: Float32Array; sure: Float32Array; shares: Float32Array[] } {
  const guide = new Float32Array(n);
  const sure = new Float32Array(n);
  const shares = frames.map(() => new Float32Array(n));
  for (let i = 0; i < n; i++) {
    let [best, sum, noise, cubes] = [-1, 0, 0, 0];
    for (let f = 0; f < frames.length; f++) {
      if (frames[f].fine[i] < 0) continue;
      const e = smooth[f][i];
      sum += e;
      cubes += e ** 3;
      noise = Math.max(noise, frames[f].noise);
      if (best < 0 || e > smooth[best][i]) best = f;
    }
    if (best < 0) {
      guide[i] = frames[0].grey[i];
      continue;
    }
    guide[i] = frames[best].grey[i];
    const top = smooth[best][i];
    // sure where one frame stands out of the rest and of the noise
    const stands = frames.length > 1 ? (top - (sum - top) / (frames.length - 1)) / (top + 1e-12) : 1;
    sure[i] = Math.max(0, stands) * (top / (top + 3 * noise + 2e-6));
    for (let f = 0; f < frames.length; f++)
      if (frames[f].fine[i] >= 0) shares[f][i] = smooth[f][i] ** 3 / (cubes + 1e-30);
  }
  return { guide, sure, shares };
}

interface Answers {
  readonly known: Float32Array;
  readonly answers: readonly Float32Array[];
}

/** What the surroundings say, and how surely. */
function answersOf(
  shares: readonly Float32Array[],
  sure: Float32Array,
  guide: Float32Array,
  w: number,
  h: number,
  reach: number,
): Answers {
  const filter = guidedBy(guide, w, h, reach, EVEN);
  return {
    known: filter(sure),
    answers: shares.map((share) => {
      const weighted = new Float32Array(share.length);
      for (let i = 0; i < share.length; i++) weighted[i] = share[i] * sure[i];
      return filter(weighted);
    }),
  };
}

/** Takes as much of the answers as they are known; `last` takes whatever is left open. */
function ask(
  mixed: readonly Float32Array[],
  left: Float32Array,
  { known, answers }: Answers,
  last: boolean,
): void {
  for (let i = 0; i < left.length; i++) {
    const taken = left[i] * (last ? 1 : Math.min(1, Math.max(0, known[i]) * 2.5));
    if (taken <= 0 || known[i] <= 1e-9) continue;
    for (let f = 0; f < mixed.length; f++) mixed[f][i] += (taken * Math.max(0, answers[f][i])) / known[i];
    left[i] -= taken;
  }
}

/** Means of blocks of cells. */
function shrunk(plane: Float32Array, w: number, h: number): Float32Array {
  const [sw, sh] = [Math.ceil(w / COARSER), Math.ceil(h / COARSER)];
  const out = new Float32Array(sw * sh);
  const count = new Float32Array(sw * sh);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const k = ((y / COARSER) | 0) * sw + ((x / COARSER) | 0);
      out[k] += plane[i];
      count[k]++;
    }
  for (let k = 0; k < out.length; k++) out[k] /= count[k];
  return out;
}

/** Back to the finer grid, linearly. */
function widened(plane: Float32Array, sw: number, sh: number, w: number, h: number): Float32Array {
  const out = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++) {
    const v = Math.min(sh - 1, Math.max(0, (y + 0.5) / COARSER - 0.5));
    const row = (v | 0) * sw;
    const below = Math.min(sh - 1, (v | 0) + 1) * sw;
    const fy = v - (v | 0);
    for (let x = 0; x < w; x++, i++) {
      const u = Math.min(sw - 1, Math.max(0, (x + 0.5) / COARSER - 0.5));
      const k = u | 0;
      const right = Math.min(sw - 1, k + 1);
      const fx = u - k;
      const a = plane[row + k] + fx * (plane[row + right] - plane[row + k]);
      const b = plane[below + k] + fx * (plane[below + right] - plane[below + k]);
      out[i] = a + fy * (b - a);
    }
  }
  return out;
}

/** Where there is structure, and the sharpest frame shows it blurred. */
function unsharpCells(frames: readonly FocusEnergy[], w: number, h: number): Uint8Array {
  const out = new Uint8Array(w * h);
  const mean = (plane: Float32Array, reach: number): Float32Array => boxMean(plane, w, h, reach);
  const fine = frames.map((f) =>
    mean(
      f.fine.map((v) => (v > 0 ? v : 0)),
      ASKED,
    ),
  );
  const coarse = frames.map((f) => mean(f.coarse, ASKED));
  const steps = frames.map((f) => mean(stepEnergy(f.grey, w, h, 2), WIDE_ASKED));
  const wide = frames.map((f) => mean(stepEnergy(f.grey, w, h, 8), WIDE_ASKED));
  for (let i = 0; i < out.length; i++) {
    let best = 0;
    let widest = 0;
    for (let f = 1; f < frames.length; f++) {
      if (fine[f][i] > fine[best][i]) best = f;
      if (steps[f][i] > steps[widest][i]) widest = f;
    }
    const structure = coarse[best][i];
    const sharp = fine[best][i] - LEFT_OF_NOISE * frames[best].noise;
    const soft =
      structure > Math.max(LEAST, STRUCTURE * frames[best].noise) && sharp < SHARP_SHARE * structure;
    // a cell is the mean of four pixels, and so has a quarter of their noise
    const noise = frames[widest].noise / 4;
    const broad = wide[widest][i] - noise;
    const heavy =
      broad > Math.max(WIDE_LEAST, STRUCTURE * noise) && steps[widest][i] - noise < WIDE_SHARE * broad;
    if (soft || heavy) out[i] = 1;
  }
  return out;
}

/** The squared sum-modified Laplacian of the cells' means at a step of so many cells; borders are continued. */
function stepEnergy(grey: Float32Array, w: number, h: number, step: number): Float32Array {
  const out = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++) {
    const up = (y >= step ? y - step : 0) * w;
    const down = (y + step < h ? y + step : h - 1) * w;
    for (let x = 0; x < w; x++, i++) {
      const left = grey[i - (x >= step ? step : x)];
      const right = grey[i + (x + step < w ? step : w - 1 - x)];
      const twice = 2 * grey[i];
      const e = Math.abs(twice - left - right) + Math.abs(twice - grey[up + x] - grey[down + x]);
      out[i] = e * e;
    }
  }
  return out;
}
