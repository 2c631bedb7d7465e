/** Lens blur, standard deviation in frame pixels: FWHM = 2.3548 σ = 1.06 px. */
export const LENS_SIGMA = 0.45;
/** least blur in scene pixels for which samples of the render stay free of its grid */
const LEAST_SCENE_SIGMA = 0.55;

const PHASES = 1024;

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

/**
 * Light of one plane of the scene on the pixels of a frame through a Gaussian point spread; borders are continued.
 * @param wished point spread, standard deviation in scene pixels; raised to what keeps the render's grid out
 */
export function gatherLight(
  plane: Float32Array,
  W: number,
  H: number,
  { width, height, places }: Looks,
  wished: number,
): Float32Array {
  const n = width * height;
  const out = new Float32Array(n);
  const sigma = Math.max(LEAST_SCENE_SIGMA, wished);
  const reach = Math.ceil(3 * sigma);
  const taps = 2 * reach + 1;
  const spread = gaussianPhases(sigma, reach);
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
