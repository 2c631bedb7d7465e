import { type Merged } from '@/core/merge/exposureFusion';
import { radianceBands, radianceBuffers } from '@/core/merge/radiance/mergeRadiance';
import { type RadianceFrame } from '@/core/merge/radiance/radianceBand';
import { type ToneWish } from '@/core/merge/radiance/toneMap';
import { emptyImage } from '@/core/raster/encodedImage';
import { type BracketFrame, findTakes, type MergeOptions, type MoverOptions } from './mergeFrames';
import { halfHeight, inBands } from './inBands';
import { type WorkerPool } from './workerPool';

/** How a radiance merge is made. */
export interface RadianceWish {
  readonly tone: ToneWish;
  readonly response: 'srgb' | 'recovered';
}

/** Radiance merge and tone map in the pool, band by band. What moved is taken from one frame each, as for the fusion. */
export async function mergeRadiance(
  pool: WorkerPool,
  frames: readonly BracketFrame[],
  width: number,
  height: number,
  { tone, response: wished }: RadianceWish,
  moverOptions: MoverOptions,
  { signal, onProgress }: MergeOptions = {},
): Promise<Merged> {
  const bands = radianceBands(width, height);
  const buffers = radianceBuffers(width, height, frames.length);
  const total = bands.length * 6 + frames.length + 2;
  let done = 0;
  const advance = (by: number): void => onProgress?.((done += by) / total);
  const { movers, takes } = await findTakes(pool, frames, width, height, moverOptions, signal, advance);
  const zero = frames[moverOptions.reference].stops;
  const inputs: RadianceFrame[] = frames.map((f) => ({
    image: f.image,
    matrix: f.matrix,
    stops: f.stops - zero,
  }));
  const response = await pool.run((tasks) => tasks.response(inputs, width, height, wished), { signal });
  await inBands(
    pool,
    bands,
    (tasks, band) => tasks.fillRadiance(inputs, response.curve, band, buffers, takes),
    {
      signal,
      halves: halfHeight(2),
      onPart: (share) => advance(5 * share * bands.length),
    },
  );
  const base = await pool.run((tasks) => tasks.baseOf(buffers.radiance), { signal });
  advance(2);
  const image = emptyImage(width, height, 65535);
  await inBands(pool, bands, (tasks, band) => tasks.toneMapBand(buffers.radiance, band, base, tone, image), {
    signal,
    halves: halfHeight(2),
    onPart: (share) => advance(share * bands.length),
  });
  return { image, shares: buffers.shares, movers, radiance: buffers.radiance, responseOff: response.off };
}
