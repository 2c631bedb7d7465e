import { type Remote } from 'comlink';
import { reachedPart } from '@/core/kernels/warpKernel';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Rectangle } from '@/core/raster/raster';
import { type BandOptions, inBands } from './inBands';
import { type Tasks } from './tasks';
import { withReader } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** share of a strip that reading counts as in its progress: a guess, from one decoding of 38 frames of 26 MP in 17 to 21 s */
const READING = 0.65;

/** Rows of a frame, from the first to before the end; undefined where nothing of it is reached. */
export type ReachedRows = readonly [first: number, end: number] | undefined;

export interface StripOptions<B> extends BandOptions<B> {
  /** the rows of a frame that a band is made from */
  readonly reached: (frame: number, band: B) => ReachedRows;
}

/** The rows of a fitted frame that an area of the reference's grid is drawn from. */
export function reachedRows(
  { image, matrix }: { readonly image: EncodedImage; readonly matrix: Matrix3 },
  area: Rectangle,
): ReachedRows {
  const { firstRow, endRow } = reachedPart(image, matrix, area);
  return [firstRow, endRow];
}

/** The rows that two bands together ask for. */
function together(a: ReachedRows, b: ReachedRows): ReachedRows {
  return a && b ? [Math.min(a[0], b[0]), Math.max(a[1], b[1])] : (a ?? b);
}

/** Bands that are made together, and the rows of each frame that they ask for. */
interface Strip<B> {
  readonly bands: readonly B[];
  readonly rows: readonly ReachedRows[];
}

/**
 * Runs a step band by band as {@link inBands} does. Where frames are away, as many bands are made together as their rows fit into memory: each frame
 * is read again for every such strip, and only its rows stay, in the same memory for all strips.
 * @param run given the frames with at least the rows that the band asks for
 */
export async function inStrips<B>(
  pool: WorkerPool,
  images: readonly EncodedImage[],
  bands: readonly B[],
  run: (tasks: Remote<Tasks>, band: B, images: readonly EncodedImage[]) => Promise<unknown>,
  { reached, ...options }: StripOptions<B>,
): Promise<void> {
  if (images.every((image) => image.away === undefined))
    return inBands(pool, bands, (tasks, band) => run(tasks, band, images), options);
  const most = pool.frames?.mostRows ?? 0;
  const bytes = (rows: readonly ReachedRows[]): number =>
    rows.reduce((sum, r, f) => {
      const { width, data } = images[f];
      return sum + (r ? (r[1] - r[0]) * width * 3 * data.BYTES_PER_ELEMENT : 0);
    }, 0);
  const strips: Strip<B>[] = [];
  for (const band of bands) {
    const own = images.map((image, f) => (image.away === undefined ? undefined : reached(f, band)));
    const last = strips[strips.length - 1];
    const rows = own.map((r, f) => together(last?.rows[f], r));
    if (last && bytes(rows) <= most) strips[strips.length - 1] = { bands: [...last.bands, band], rows };
    else strips.push({ bands: [band], rows: own });
  }
  const memory = images.map(({ width, white }, f) => {
    const height = Math.max(...strips.map(({ rows: { [f]: r } }) => (r ? r[1] - r[0] : 0)));
    return height > 0 ? emptyImage(width, height, white).data : undefined;
  });
  for (const { bands: strip, rows } of strips) {
    const share = strip.length / bands.length;
    const count = rows.filter((r) => r !== undefined).length;
    // what the step before has grown to makes room for the rows
    pool.rest();
    const cut = await Promise.all(
      images.map(async (image, f) => {
        const [r, data] = [rows[f], memory[f]];
        if (!r || !data || image.away === undefined) return image;
        const { width, height, white, away } = image;
        const part = {
          width,
          height,
          white,
          firstRow: r[0],
          data: data.subarray(0, (r[1] - r[0]) * width * 3),
        };
        await withReader(pool, (frames) =>
          options.signal?.aborted ? Promise.resolve() : frames.fill(away, part),
        );
        options.onPart?.((READING * share) / count);
        return part;
      }),
    );
    await inBands(pool, strip, (tasks, band) => run(tasks, band, cut), {
      ...options,
      onPart: (of) => options.onPart?.(of * share * (count > 0 ? 1 - READING : 1)),
    });
  }
}
