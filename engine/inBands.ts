import { type Remote } from 'comlink';
import { type Rectangle } from '@/core/raster/raster';
import { type Tasks } from './tasks';
import { OutOfMemory, type WorkerPool } from './workerPool';

/** Rows of a picture that one job makes. */
export interface Rows {
  readonly top: number;
  readonly rows: number;
}

export interface BandOptions<B> {
  readonly signal?: AbortSignal;
  /** a part is done: its share of all bands */
  readonly onPart?: (share: number) => void;
  /** how a band is halved; undefined when it is as small as it can be */
  readonly halves: (band: B) => readonly B[] | undefined;
}

/**
 * Runs a step band by band in the pool. A band for which no worker had the memory is made in halves, and those in halves again, as far as
 * they can be cut; then the want of memory is told.
 */
export async function inBands<B>(
  pool: WorkerPool,
  bands: readonly B[],
  run: (tasks: Remote<Tasks>, band: B) => Promise<unknown>,
  { signal, onPart, halves }: BandOptions<B>,
): Promise<void> {
  const make = async (band: B, share: number): Promise<void> => {
    try {
      await pool.run((tasks) => run(tasks, band), { signal });
      onPart?.(share);
    } catch (thrown) {
      const parts = thrown instanceof OutOfMemory ? halves(band) : undefined;
      if (!parts) throw thrown;
      // one after the other: side by side they would need what was not there
      for (const part of parts) await make(part, share / parts.length);
    }
  };
  await Promise.all(bands.map((band) => make(band, 1 / bands.length)));
}

/** Where to cut so many rows in two at a multiple of `unit`; undefined when they are as few as they can be. */
function middle(rows: number, unit: number): number | undefined {
  const upper = Math.ceil(rows / 2 / unit) * unit;
  return upper < rows ? upper : undefined;
}

/** Halves a band of rows at a multiple of `unit`. */
export const halfRows =
  (unit = 1) =>
  <B extends Rows>(band: B): readonly B[] | undefined => {
    const upper = middle(band.rows, unit);
    return upper === undefined
      ? undefined
      : [
          { ...band, rows: upper },
          { ...band, top: band.top + upper, rows: band.rows - upper },
        ];
  };

/** Halves a rectangle at a multiple of `unit` rows. */
export const halfHeight =
  (unit = 1) =>
  (tile: Rectangle): readonly Rectangle[] | undefined => {
    const upper = middle(tile.height, unit);
    return upper === undefined
      ? undefined
      : [
          { ...tile, height: upper },
          { ...tile, y: tile.y + upper, height: tile.height - upper },
        ];
  };
