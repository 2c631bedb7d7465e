import { type Allocate, sharedBytes } from '../../raster/raster';

/**
 * Puts the rows of a PNG that is not interlaced together as they are unpacked: takes back the filter of each (W3C PNG, 9.2) and writes
 * its samples of 8 or 16 bits into shared memory, so that nothing but the picture itself is held.
 */
export interface PngRows {
  /** the next bytes of the unpacked stream, cut anywhere; what comes after the last row is left */
  readonly push: (bytes: Uint8Array) => void;
  /** rows that are whole */
  readonly count: () => number;
  readonly data: Uint8Array | Uint16Array;
}

/**
 * @param samples a row, all channels
 * @param depth bits a sample
 * @param step bytes a pixel
 */
export function pngRows(
  samples: number,
  height: number,
  depth: 8 | 16,
  step: number,
  allocate: Allocate = sharedBytes,
): PngRows {
  const bytes = (samples * depth) / 8;
  const data =
    depth === 8
      ? new Uint8Array(allocate(samples * height))
      : new Uint16Array(allocate(2 * samples * height));
  let [row, before] = [new Uint8Array(bytes), new Uint8Array(bytes)];
  let [y, at, filter] = [0, -1, 0];
  const put = (): void => {
    unfilter(filter, row, before, step);
    if (depth === 8) data.set(row, y * samples);
    else
      for (let i = 0, o = y * samples, p = 0; i < samples; i++, o++, p += 2)
        data[o] = (row[p] << 8) | row[p + 1];
    [row, before] = [before, row];
    y++;
    at = -1;
  };
  return {
    push: (piece) => {
      for (let i = 0; i < piece.length && y < height;) {
        if (at < 0) {
          filter = piece[i++];
          if (filter > PAETH) throw new Error('no such filter');
          at = 0;
          continue;
        }
        const count = Math.min(bytes - at, piece.length - i);
        row.set(piece.subarray(i, i + count), at);
        i += count;
        at += count;
        if (at === bytes) put();
      }
    },
    count: () => y,
    data,
  };
}

const [SUB, UP, AVERAGE, PAETH] = [1, 2, 3, 4];

/** Takes back a row's filter in place. */
function unfilter(filter: number, row: Uint8Array, before: Uint8Array, step: number): void {
  const n = row.length;
  if (filter === SUB) for (let i = step; i < n; i++) row[i] += row[i - step];
  else if (filter === UP) for (let i = 0; i < n; i++) row[i] += before[i];
  else if (filter === AVERAGE) {
    for (let i = 0; i < step; i++) row[i] += before[i] >> 1;
    for (let i = step; i < n; i++) row[i] += (row[i - step] + before[i]) >> 1;
  } else if (filter === PAETH) {
    for (let i = 0; i < step; i++) row[i] += before[i];
    for (let i = step; i < n; i++) {
      const [left, above, corner] = [row[i - step], before[i], before[i - step]];
      const p = above - corner;
      const q = left - corner;
      const [toLeft, toAbove, toCorner] = [Math.abs(p), Math.abs(q), Math.abs(p + q)];
      row[i] += toLeft <= toAbove && toLeft <= toCorner ? left : toAbove <= toCorner ? above : corner;
    }
  }
}
