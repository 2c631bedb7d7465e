import { type Raster } from '@/core/raster/raster';

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

/** How planes of a scene are gathered into a frame. */
export interface Gathering {
  readonly width: number;
  readonly height: number;
  readonly looksAt: LooksAt;
  /** point spread, standard deviation in scene pixels; raised to what keeps the render's grid out */
  readonly sigma: number;
}

/** Light of the scene's planes on the pixels of a frame through a Gaussian point spread; borders are continued. */
export function gatherLight(
  { width: W, height: H, planes }: Raster,
  { width, height, looksAt, sigma: wished }: Gathering,
): Float32Array[] {
  const out = planes.map(() => new Float32Array(width * height));
  const sigma = Math.max(LEAST_SCENE_SIGMA, wished);
  const reach = Math.ceil(3 * sigma);
  const taps = 2 * reach + 1;
  const spread = gaussianPhases(sigma, reach);
  const columns = new Int32Array(taps);
  const weights = new Float64Array(taps * taps);
  const places = new Int32Array(taps * taps);
  const at = new Float64Array(2);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      looksAt(x, y, at);
      const iu = Math.round(at[0]);
      const iv = Math.round(at[1]);
      const px = Math.round((at[0] - iu + 0.5) * PHASES) * taps;
      const py = Math.round((at[1] - iv + 0.5) * PHASES) * taps;
      for (let i = 0; i < taps; i++) {
        const column = iu - reach + i;
        columns[i] = column < 0 ? 0 : column >= W ? W - 1 : column;
      }
      for (let j = 0, k = 0; j < taps; j++) {
        const line = iv - reach + j;
        const row = (line < 0 ? 0 : line >= H ? H - 1 : line) * W;
        const wy = spread[py + j];
        for (let i = 0; i < taps; i++, k++) {
          places[k] = row + columns[i];
          weights[k] = spread[px + i] * wy;
        }
      }
      for (let c = 0; c < planes.length; c++) {
        const plane = planes[c];
        let sum = 0;
        for (let k = 0; k < places.length; k++) sum += weights[k] * plane[places[k]];
        out[c][o] = sum;
      }
    }
  return out;
}
