import { type Merged } from '@/core/merge/exposureFusion';
import { radianceBands, radianceBuffers } from '@/core/merge/radiance/mergeRadiance';
import { type RadianceFrame } from '@/core/merge/radiance/radianceBand';
import { type ToneBase, type ToneWish } from '@/core/merge/radiance/toneMap';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type BracketFrame, findTakes, type MoverOptions } from './mergeFrames';
import { type MergeOptions } from './mergeOptions';
import { halfHeight, inBands } from './inBands';
import { inStrips, reachedRows } from './inStrips';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/**
 * Radiance merge in the pool, band by band. What moved is taken from one frame each, as for the fusion.
 * @param wished the curve by which codes become light
 * @returns the radiance map, sRGB-encoded floats, unbounded, and what its tone map needs
 */
export async function mergeRadiance(
  pool: WorkerPool,
  frames: readonly BracketFrame[],
  width: number,
  height: number,
  wished: 'srgb' | 'recovered',
  moverOptions: MoverOptions,
  { signal, onProgress }: MergeOptions = {},
): Promise<Merged & { readonly toneBase: ToneBase }> {
  const bands = radianceBands(width, height);
  const buffers = radianceBuffers(width, height, frames.length);
  const total = bands.length * 5 + frames.length + 2;
  let done = 0;
  const advance = (by: number): void => onProgress?.((done += by) / total);
  const { movers, takes } = await findTakes(pool, frames, width, height, moverOptions, signal, advance);
  const zero = frames[moverOptions.reference].stops;
  const inputs: RadianceFrame[] = frames.map((f) => ({
    image: f.image,
    matrix: f.matrix,
    stops: f.stops - zero,
  }));
  const patches = await Promise.all(
    inputs.map(({ image, matrix }) =>
      withWhole(
        pool,
        [image],
        ([whole]) =>
          pool.run((tasks) => tasks.framePatches({ image: whole, matrix }, width, height), { signal }),
        signal,
      ),
    ),
  );
  const stops = inputs.map((f) => f.stops);
  const response = await pool.run((tasks) => tasks.response(patches, stops, wished), { signal });
  await inStrips(
    pool,
    inputs.map((f) => f.image),
    bands,
    (tasks, band, images) => {
      const laid = inputs.map((f, i) => ({ ...f, image: images[i] }));
      return tasks.fillRadiance(laid, response.curve, band, buffers, takes);
    },
    {
      signal,
      reached: (f, band) => reachedRows(inputs[f], band),
      halves: halfHeight(2),
      onPart: (share) => advance(5 * share * bands.length),
    },
  );
  const toneBase = await pool.run((tasks) => tasks.baseOf(buffers.radiance), { signal });
  advance(2);
  return { image: buffers.radiance, shares: buffers.shares, movers, responseOff: response.off, toneBase };
}

/** A radiance map brought to the range of a print or screen, 16 bit, in the pool. */
export async function tonePicture(
  pool: WorkerPool,
  radiance: EncodedImage,
  base: ToneBase,
  wish: ToneWish,
  { signal }: MergeOptions = {},
): Promise<EncodedImage> {
  const { width, height } = radiance;
  const image = emptyImage(width, height, 65535);
  await inBands(
    pool,
    radianceBands(width, height),
    (tasks, band) => tasks.toneMapBand(radiance, band, base, wish, image),
    { signal, halves: halfHeight(2) },
  );
  return image;
}
