import { labOf } from '../colour/deltaE';
import { type EncodedImage } from '../raster/encodedImage';
import { lightOfCodes } from '../raster/lightOfCodes';
import { type LabGrid } from './linkCost';

/** Linear light, R G B interleaved, 0…1. */
export interface LightGrid {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Mean linear light of cells of `factor` × `factor` pixels; cells at the right and lower border may be smaller. */
export function lightGrid(image: EncodedImage, factor = 1): LightGrid {
  return cellMeans(image, factor, lightOfCodes(image));
}

/** Light in larger cells. */
export function reducedLight(light: LightGrid, factor: number): LightGrid {
  return cellMeans(light, factor, (v) => v);
}

function cellMeans(
  from: { readonly width: number; readonly height: number; readonly data: ArrayLike<number> },
  factor: number,
  light: (value: number) => number,
): LightGrid {
  const [width, height] = [Math.ceil(from.width / factor), Math.ceil(from.height / factor)];
  const data = new Float32Array(3 * width * height);
  const count = new Float32Array(width * height);
  for (let y = 0, p = 0; y < from.height; y++) {
    const row = Math.floor(y / factor) * width;
    for (let x = 0; x < from.width; x++) {
      const cell = row + Math.floor(x / factor);
      count[cell]++;
      for (let c = 0; c < 3; c++) data[3 * cell + c] += light(from.data[p++]);
    }
  }
  for (let cell = 0; cell < count.length; cell++)
    for (let c = 0; c < 3; c++) data[3 * cell + c] /= count[cell];
  return { width, height, data };
}

/** The colours of a grid of light, CIE L*a*b*. @param where [pixel] 1 where they are wanted; everywhere when left out */
export function labGrid({ width, height, data }: LightGrid, where?: Uint8Array): LabGrid {
  const lab = new Float32Array(data.length);
  for (let i = 0; i < width * height; i++)
    if (!where || where[i]) {
      const colour = labOf(data[3 * i], data[3 * i + 1], data[3 * i + 2]);
      lab[3 * i] = colour[0];
      lab[3 * i + 1] = colour[1];
      lab[3 * i + 2] = colour[2];
    }
  return { width, height, data: lab };
}
