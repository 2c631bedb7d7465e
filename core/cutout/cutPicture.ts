import { type EncodedImage, sharedCopy } from '../raster/encodedImage';
import { sharedBytes } from '../raster/raster';
import { encodeClipped } from '../raster/srgb';
import { type CoarseCut } from './coarseCut';
import { type Cutout, cutFromDabs, firstCut } from './cutFromDabs';
import { type Dab } from './dab';
import { lightGrid } from './lightGrid';

/** of alpha: nearer to 0 or 1 than this a pixel shows one side alone, and keeps its own colour */
const SOLID = 1 / 512;
/** cells of the quick cut, and how often it learns colours */
const QUICK_CELLS = 2.4e4;
const QUICK_ROUNDS = 2;

/** Dabs whose lengths are fractions of a picture's long edge, in its pixels. */
export function dabsInPixels(
  dabs: readonly Dab[],
  { width, height }: Pick<EncodedImage, 'width' | 'height'>,
): Dab[] {
  const long = Math.max(width, height);
  return dabs.map(({ is, size, points }) => ({
    is,
    size: size * long,
    points: points.map(([x, y]) => [x * long - 0.5, y * long - 0.5]),
  }));
}

/** A picture with the opacity of what dabs point at; half covered pixels have the thing's own colour. @param dabs see {@link dabsInPixels} */
export function cutPicture(image: EncodedImage, dabs: readonly Dab[]): EncodedImage {
  const { alpha, colour } = cutFromDabs(image, dabsInPixels(dabs, image));
  return { ...image, data: freedData(image, { alpha, colour }), alpha: opacity(image, (i) => alpha[i]) };
}

function freedData(
  { data: own, white }: EncodedImage,
  { alpha, colour }: Pick<Cutout, 'alpha' | 'colour'>,
): EncodedImage['data'] {
  const data = sharedCopy(own);
  const half = white === 1 ? 0 : 0.5;
  for (let i = 0; i < alpha.length; i++)
    if (alpha[i] > SOLID && alpha[i] < 1 - SOLID)
      for (let c = 0; c < 3; c++) data[3 * i + c] = white * encodeClipped(colour[3 * i + c]) + half;
  return data;
}

/** Opacity as pictures hold it, within what the picture itself shows. @param cover of a pixel, 0…1 */
function opacity({ width, height, alpha: own }: EncodedImage, cover: (i: number) => number): Uint8Array {
  const out = new Uint8Array(sharedBytes(3 * width * height));
  for (let i = 0; i < width * height; i++) {
    const share = cover(i);
    if (share > 0) out.fill(share * (own ? own[3 * i] : 255) + 0.5, 3 * i, 3 * i + 3);
  }
  return out;
}

/** What dabs point at, quickly: the first cut alone, its edge as soft as its cells. @param levels a picture and its halvings, largest first */
export function roughCutPicture(levels: readonly EncodedImage[], dabs: readonly Dab[]): EncodedImage[] {
  const small = levels.findLast(({ width, height }) => width * height >= QUICK_CELLS) ?? levels[0];
  const light = lightGrid(small);
  const { label, width, height } = firstCut(light, dabsInPixels(dabs, small), QUICK_CELLS, QUICK_ROUNDS);
  return levels.map((level) => ({
    ...level,
    alpha: opacity(level, coverOf(label, width, height, level)),
  }));
}

/** The share of “this” among the cells about a pixel, linear between their middles. */
function coverOf(
  label: CoarseCut['label'],
  width: number,
  height: number,
  level: Pick<EncodedImage, 'width' | 'height'>,
): (i: number) => number {
  const [sx, sy] = [width / level.width, height / level.height];
  return (i) => {
    const u = Math.max(0, Math.min(width - 1, ((i % level.width) + 0.5) * sx - 0.5));
    const v = Math.max(0, Math.min(height - 1, (Math.floor(i / level.width) + 0.5) * sy - 0.5));
    const [x, y] = [Math.floor(u), Math.floor(v)];
    const right = x + 1 < width ? 1 : 0;
    const below = y + 1 < height ? width : 0;
    const at = y * width + x;
    const sum = label[at] + label[at + right] + label[at + below] + label[at + below + right];
    if (sum === 0 || sum === 4) return sum / 4;
    const [fx, fy] = [u - x, v - y];
    return (
      (label[at] * (1 - fx) + label[at + right] * fx) * (1 - fy) +
      (label[at + below] * (1 - fx) + label[at + below + right] * fx) * fy
    );
  };
}
