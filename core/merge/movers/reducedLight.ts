import { codeBytes, type Kernels, kernels } from '../../kernels/kernels';
import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { linearTable, srgbToLinear } from '../../raster/srgb';

/** codes beyond which a sample says little of the light: the ends of the curve, where cameras bend it */
const LOW = 0.03;
const HIGH = 0.97;
/** light of the code under which a camera may have made black of anything */
const BLACK = srgbToLinear(0.018);

/** Linear light of a frame's own grid, by cells; NaN in `light` where a cell holds nothing. */
export interface ReducedLight {
  readonly w: number;
  readonly h: number;
  readonly light: Float32Array;
  readonly red: Float32Array;
  readonly blue: Float32Array;
  /** what is left of the light where it clips; NaN elsewhere */
  readonly least: Float32Array;
  /** what it can have been where it is dark; NaN elsewhere */
  readonly most: Float32Array;
}

/** Means of each cell, and how many of its pixels clip or are dark. */
export interface CellMeans {
  readonly light: Float32Array;
  readonly red: Float32Array;
  readonly blue: Float32Array;
  readonly lost: Float32Array;
  readonly dark: Float32Array;
}

/**
 * Linear light of a frame's own grid, reduced by means; a cell holds nothing when part of it clips or most of it is dark.
 * @param level halvings
 */
export function reducedLight(image: EncodedImage, level: number): ReducedLight {
  const codes = asCodes(image);
  const [w, h] = [Math.max(1, codes.width >> level), Math.max(1, codes.height >> level)];
  const compiled = kernels();
  const { light, red, blue, lost, dark } = compiled
    ? cellMeansKernel(compiled, codes, level, w, h)
    : cellMeansPlain(codes, level, w, h);
  const least = new Float32Array(w * h).fill(NaN);
  const most = new Float32Array(w * h).fill(NaN);
  const pixels = 4 ** level;
  for (let i = 0; i < light.length; i++) {
    const isDark = 2 * dark[i] > pixels;
    if (lost[i] > 0) least[i] = light[i];
    else if (isDark) most[i] = Math.max(BLACK, light[i]);
    if (lost[i] > 0 || isDark) light[i] = NaN;
  }
  return { w, h, light, red, blue, least, most };
}

/** The plain form of the cells' means: the reference that the kernel is held against. */
export function cellMeansPlain(
  { width, data, white }: EncodedImage,
  level: number,
  w: number,
  h: number,
): CellMeans {
  const size = 2 ** level;
  const table = linearTable(white);
  const [low, high] = [LOW * white, HIGH * white];
  const floats = (): Float32Array => new Float32Array(w * h);
  const means = { light: floats(), red: floats(), blue: floats(), lost: floats(), dark: floats() };
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o++) {
      let [light, red, blue] = [0, 0, 0];
      for (let j = 0; j < size; j++) {
        let i = ((y * size + j) * width + x * size) * 3;
        for (let k = 0; k < size; k++, i += 3) {
          const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
          light += 0.25 * (table[r] + table[b]) + 0.5 * table[g];
          red += table[r];
          blue += table[b];
          if (r > high || g > high || b > high) means.lost[o]++;
          else if (r < low && g < low && b < low) means.dark[o]++;
        }
      }
      means.light[o] = light / (size * size);
      means.red[o] = red / (size * size);
      means.blue[o] = blue / (size * size);
    }
  return means;
}

/** {@link cellMeansPlain} by the compiled kernel, a row of cells at a time. */
export function cellMeansKernel(
  k: Kernels,
  { width, data, white }: EncodedImage,
  level: number,
  w: number,
  h: number,
): CellMeans {
  const size = 2 ** level;
  const row = size * width * 3;
  return k.borrow(() => {
    const table = k.upload(linearTable(white));
    const planes = Array.from({ length: 5 }, () => k.take(w * h * 4));
    for (let y = 0; y < h; y++)
      k.borrow(() => {
        const src = k.uploadCodes(data.subarray(y * row, (y + 1) * row));
        const at = (i: number): number => planes[i] + y * w * 4;
        k.reduceLightRow(
          ...([src, codeBytes(white), width, size, w, table, LOW * white, HIGH * white] as const),
          ...([at(0), at(1), at(2), at(3), at(4)] as const),
        );
      });
    const [light, red, blue, lost, dark] = planes.map((at) => k.floats(at, w * h).slice());
    return { light, red, blue, lost, dark };
  });
}
