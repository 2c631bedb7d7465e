/** How much each quality measure counts: exponents 0…1 (Mertens, Kautz & Van Reeth 2007, eq. 3). */
export interface FusionMeasures {
  /** local contrast: absolute Laplacian of the grey picture */
  readonly contrast: number;
  /** spread of the three channels */
  readonly saturation: number;
  /** closeness of each channel to the middle of the range, Gaussian with σ = 0.2 */
  readonly exposedness: number;
}

export const PAPER_MEASURES: FusionMeasures = { contrast: 1, saturation: 1, exposedness: 1 };

/** spread of the exposedness, of a range of 0…1 */
export const SIGMA = 0.2;
const TINY = 1e-12;

const power = (v: number, exponent: number): number =>
  exponent === 1 ? v : exponent === 0 ? 1 : v ** exponent;

/**
 * Quality of every pixel of one encoded picture (0…1 planes R, G, B): contrast^c · saturation^s · exposedness^e + 1e−12,
 * times `coverage`. Grey is 0.299 R + 0.587 G + 0.114 B; borders are mirrored.
 */
export function mertensWeight(
  planes: readonly Float32Array[],
  width: number,
  height: number,
  measures: FusionMeasures,
  coverage?: Float32Array,
): Float32Array {
  const [R, G, B] = planes;
  const n = width * height;
  const weight = new Float32Array(n);
  const grey = new Float32Array(n);
  for (let i = 0; i < n; i++) grey[i] = 0.299 * R[i] + 0.587 * G[i] + 0.114 * B[i];
  const { contrast, saturation, exposedness } = measures;
  const narrow = -0.5 / (SIGMA * SIGMA);
  for (let y = 0; y < height; y++) {
    const up = y > 0 ? -width : height > 1 ? width : 0;
    const down = y + 1 < height ? width : height > 1 ? -width : 0;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (coverage && coverage[i] === 0) continue;
      const left = x > 0 ? -1 : width > 1 ? 1 : 0;
      const right = x + 1 < width ? 1 : width > 1 ? -1 : 0;
      const c = Math.abs(grey[i + up] + grey[i + down] + grey[i + left] + grey[i + right] - 4 * grey[i]);
      const r = R[i];
      const g = G[i];
      const b = B[i];
      const mean = (r + g + b) / 3;
      const s = Math.sqrt((r - mean) * (r - mean) + (g - mean) * (g - mean) + (b - mean) * (b - mean));
      const squares = (r - 0.5) * (r - 0.5) + (g - 0.5) * (g - 0.5) + (b - 0.5) * (b - 0.5);
      const e = exposedness === 0 ? 1 : Math.exp(narrow * exposedness * squares);
      weight[i] = (power(c, contrast) * power(s, saturation) * e + TINY) * (coverage ? coverage[i] : 1);
    }
  }
  return weight;
}
