import { type Kernels, planeBytes } from '../../kernels/kernels';
import { warpIntoKernels } from '../../kernels/warpKernel';
import { type Band } from '../fusionPlan';
import { sortingNetwork } from './sortingNetwork';
import { type StackBuffers, type StackFrame, type StackMethod } from './stackMethod';

/** bytes of samples that are held at once */
const HELD = 48e6;
/** the kernel's numbers of the methods */
const CODES: Readonly<Record<StackMethod, number>> = { mean: 0, median: 1, clip: 2, max: 3, min: 4 };

/** Frames that the kernel can sort: it counts them in a byte. */
export const MOST_SORTED = 255;

/** {@link stackBand} by the compiled kernels: strips of the band, so that the samples of many frames stay few. */
export function stackBandKernels(
  k: Kernels,
  frames: readonly StackFrame[],
  method: StackMethod,
  width: number,
  band: Band,
  buffers: StackBuffers,
): void {
  const n = frames.length;
  const most = Math.max(2, 2 * Math.floor(HELD / (24 * n * width)));
  for (let row = 0; row < band.rows; row += most)
    stackStrip(k, frames, method, width, band.top + row, Math.min(most, band.rows - row), buffers);
}

function stackStrip(
  k: Kernels,
  frames: readonly StackFrame[],
  method: StackMethod,
  width: number,
  top: number,
  rows: number,
  { image, shares, rejected }: StackBuffers,
): void {
  const n = frames.length;
  const count = width * rows;
  const plane = planeBytes(count);
  const half = (width + 1) >> 1;
  const area = { x: 0, y: top, width, height: rows };
  k.borrow(() => {
    const pictures = frames.map(({ image: source, matrix, stops }) => {
      const at = k.take(3 * plane);
      warpIntoKernels(k, source, matrix, area, at, plane);
      for (let c = 0; c < 3; c++) k.decodePlane(at + c * plane, count, 2 ** -stops);
      k.hideOutside(
        ...[at, plane, width, rows, area.x, area.y, source.width - 1, source.height - 1],
        ...matrix,
      );
      return at;
    });
    const pairs = sortingNetwork(n);
    const network = k.take(2 * pairs.length);
    k.bytes(network, 2 * pairs.length).set(pairs.flat());
    const weights = k.upload(Float32Array.from(frames, (f) => f.weight));
    const shareRows = frames.map(() => k.take(half));
    const shareList = k.addresses(shareRows);
    const list = k.take(4 * n);
    const scratch = k.take(48 * n);
    const out = k.take(3 * plane);
    for (let y = 0; y < rows; y++) {
      let turned = 0;
      const kept = ((top + y) & 1) === 0;
      for (let c = 0; c < 3; c++) {
        const offset = c * plane + 4 * y * width;
        new Uint32Array(k.bytes(list, 4 * n).buffer, list, n).set(pictures.map((at) => at + offset));
        turned += k.stackRow(
          ...[list, n, width, weights, CODES[method], network, pairs.length, scratch, out + offset],
          c === 1 && kept ? shareList : 0,
        );
      }
      rejected[top + y] = turned;
      if (kept) shareRows.forEach((at, f) => shares[f].set(k.bytes(at, half), ((top + y) >> 1) * half));
    }
    for (let c = 0; c < 3; c++) k.encodePlane(out + c * plane, count);
    const codes = k.take(6 * count);
    k.toCodes16(out, plane, count, codes);
    image.data.set(k.words(codes, 3 * count), 3 * top * width);
  });
}
