import { boxMean, guidedFilter } from '../../mask/guidedFilter';
import { sharedFloats } from '../../raster/raster';
import { type ChosenWeights } from '../blendWeights';
import { type FocusEnergy } from './focusEnergy';

/** Which frame is sharp where. */
export interface FocusMap extends ChosenWeights {
  /** [cell] place in the order of the frames, 0 … frames − 1, fractions between two */
  readonly depth: Float32Array;
  /** [cell] how surely it is known, 0…1 */
  readonly confidence: Float32Array;
  /** [cell] whether there is structure that no frame shows sharp */
  readonly unsharp: Uint8Array;
}

/** windows over which a place without structure of its own asks its surroundings, cells */
const REACHES = [3, 8, 24, 72] as const;
/** variance of the guide under which the map is kept even */
const EVEN = 4e-4;
/** how decidedly the sharpest frame is taken */
const DECIDED = 6;
/** energy of structure that counts, over that of the noise, and at least (0.02 of white)² */
const STRUCTURE = 4;
const LEAST = 4e-4;
/** a sharp edge keeps at least this share of its coarse energy in the finest step (from the modified Laplacian of a blurred step) */
const SHARP_SHARE = 0.045;

/**
 * The depth map of a focus set: at each place the frame of the largest energy, regularised by filtering every frame's share along the
 * edges of the picture (cost-volume filtering: Rhemann et al. 2011, with the guided filter of He, Sun & Tang 2010). A place without
 * structure takes the answer of ever wider surroundings, by how surely they know.
 */
export function focusMap(frames: readonly FocusEnergy[]): FocusMap {
  const { width: w, height: h, level } = frames[0];
  const n = w * h;
  const smooth = frames.map((f) =>
    boxMean(
      f.fine.map((v) => Math.max(0, v)),
      w,
      h,
      1,
    ),
  );
  const guide = new Float32Array(n);
  const sure = new Float32Array(n);
  const shares = frames.map(() => new Float32Array(n));
  for (let i = 0; i < n; i++) {
    let [best, sum, noise] = [-1, 0, 0];
    for (let f = 0; f < frames.length; f++) {
      if (frames[f].fine[i] < 0) continue;
      sum += smooth[f][i];
      noise = Math.max(noise, frames[f].noise);
      if (best < 0 || smooth[f][i] > smooth[best][i]) best = f;
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
      if (frames[f].fine[i] >= 0) shares[f][i] = (smooth[f][i] / (sum + 1e-12)) ** 2;
  }
  normalise(shares, n);
  const mixed = shares.map(() => new Float32Array(n));
  const left = new Float32Array(n).fill(1);
  for (const reach of REACHES) {
    const known = guidedFilter(sure, guide, w, h, reach, EVEN).map((v) => Math.max(0, v));
    const answers = shares.map((share) =>
      guidedFilter(
        share.map((v, i) => v * sure[i]),
        guide,
        w,
        h,
        reach,
        EVEN,
      ),
    );
    const last = reach === REACHES[REACHES.length - 1];
    for (let i = 0; i < n; i++) {
      const taken = left[i] * (last ? 1 : Math.min(1, known[i] * 2.5));
      if (taken <= 0 || known[i] <= 1e-9) continue;
      for (let f = 0; f < mixed.length; f++) mixed[f][i] += (taken * Math.max(0, answers[f][i])) / known[i];
      left[i] -= taken;
    }
  }
  const planes = mixed.map(() => sharedFloats(n));
  const depth = sharedFloats(n);
  const unsharp = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let f = 0; f < mixed.length; f++)
      sum += planes[f][i] = frames[f].fine[i] < 0 ? 0 : mixed[f][i] ** DECIDED + 1e-12;
    let [fine, coarse, noise] = [0, 0, 0];
    for (let f = 0; f < mixed.length; f++) {
      planes[f][i] = sum > 0 ? planes[f][i] / sum : f === 0 ? 1 : 0;
      depth[i] += f * planes[f][i];
      if (smooth[f][i] > fine) [fine, coarse, noise] = [smooth[f][i], frames[f].coarse[i], frames[f].noise];
    }
    if (coarse > Math.max(LEAST, STRUCTURE * noise) && fine < SHARP_SHARE * coarse) unsharp[i] = 1;
  }
  return { width: w, height: h, level, planes, depth, confidence: sure, unsharp };
}

function normalise(shares: readonly Float32Array[], n: number): void {
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (const s of shares) sum += s[i];
    if (sum > 0) for (const s of shares) s[i] /= sum;
  }
}
