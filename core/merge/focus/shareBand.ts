import { plainBoxMean } from '../../raster/boxMean';
import { type Kernels, kernels } from '../../kernels/kernels';
import { blockMeans } from './blockMeans';
import { type FocusEnergy } from './focusEnergy';
import { COARSER, type CellBand, type FocusBuffers, reachedRows } from './focusPlan';
import { ownShares, unsureEnergy } from './ownShares';

/** cells around a place whose energy is its own */
const OWN = 1;
/** steps over which the wide structure is asked, cells */
const STEPS = [2, 8] as const;

/** The first pass of a depth map, for one band: what each place says by itself, and the energies on the coarser grid. */
export function shareBand(frames: readonly FocusEnergy[], band: CellBand, buffers: FocusBuffers): void {
  const k = kernels();
  if (k) shareBandKernels(k, frames, band, buffers);
  else plainShareBand(frames, band, buffers);
}

/** The energies of wide steps on the coarser grid. */
function wideEnergies(frames: readonly FocusEnergy[], band: CellBand, buffers: FocusBuffers): void {
  const { width: w, height: h, small } = buffers;
  const at = (band.top / COARSER) * small.width;
  frames.forEach(({ grey }, f) =>
    STEPS.forEach((step, s) => small.energies[f][2 + s].set(blockBends(grey, w, h, band, step), at)),
  );
}

/** The plain form of {@link shareBand}, which the kernels are held against. */
export function plainShareBand(frames: readonly FocusEnergy[], band: CellBand, buffers: FocusBuffers): void {
  const { width: w, small } = buffers;
  const { rows, skip, around, own } = reachedRows(band, buffers, OWN);
  const above = (plane: Float32Array): Float32Array => plane.map((v) => Math.max(0, v));
  const cells = frames.map(({ fine, grey }, f) => {
    const smooth = own(buffers.smooth[f]);
    const mean = plainBoxMean(above(around(fine)), w, rows, OWN);
    smooth.set(mean.subarray(skip, skip + smooth.length));
    return { fine: own(fine), smooth, grey: own(grey) };
  });
  const { guide, sure, weighted } = ownShares(cells, unsureEnergy(frames.map((f) => f.noise)));
  const keep = (to: Float32Array, plane: Float32Array): void =>
    to.set(blockMeans(plane, w, band.rows), (band.top / COARSER) * small.width);
  own(buffers.guide).set(guide);
  own(buffers.sure).set(sure);
  keep(small.guide, guide);
  keep(small.sure, sure);
  weighted.forEach((share, f) => {
    own(buffers.weighted[f]).set(share);
    keep(small.weighted[f], share);
    keep(small.energies[f][0], above(own(frames[f].fine)));
    keep(small.energies[f][1], own(frames[f].coarse));
  });
  wideEnergies(frames, band, buffers);
}

function shareBandKernels(
  k: Kernels,
  frames: readonly FocusEnergy[],
  band: CellBand,
  buffers: FocusBuffers,
): void {
  const { width: w, small } = buffers;
  const { rows, skip, around, own } = reachedRows(band, buffers, OWN);
  const n = band.rows * w;
  const at = (band.top / COARSER) * small.width;
  const blocks = Math.ceil(band.rows / COARSER) * small.width;
  k.borrow(() => {
    const [scratch, column, means] = [k.take(4 * rows * w), k.take(8 * (w + 4)), k.take(4 * blocks)];
    const fines = frames.map((f) => k.upload(around(f.fine)));
    const above = k.take(4 * rows * w);
    const smooths = fines.map((fine) => {
      const smooth = k.take(4 * rows * w);
      k.aboveZero(fine, rows * w, above);
      k.meanPlane(above, w, rows, OWN, smooth, scratch, column);
      return smooth;
    });
    const greys = frames.map((f) => k.upload(own(f.grey)));
    const weighted = frames.map(() => k.take(4 * n));
    const [guide, sure] = [k.take(4 * n), k.take(4 * n)];
    const inner = (list: readonly number[]): number => k.addresses(list.map((p) => p + 4 * skip));
    k.ownShares(
      ...[inner(fines), inner(smooths), k.addresses(greys), frames.length, n],
      ...[unsureEnergy(frames.map((f) => f.noise)), guide, sure, k.addresses(weighted)],
    );
    const keep = (plane: number, to: Float32Array): void => {
      k.blockMeans(plane, w, band.rows, means);
      to.set(k.floats(means, blocks), at);
    };
    own(buffers.guide).set(k.floats(guide, n));
    own(buffers.sure).set(k.floats(sure, n));
    keep(guide, small.guide);
    keep(sure, small.sure);
    frames.forEach((frame, f) => {
      own(buffers.weighted[f]).set(k.floats(weighted[f], n));
      own(buffers.smooth[f]).set(k.floats(smooths[f] + 4 * skip, n));
      keep(weighted[f], small.weighted[f]);
      k.aboveZero(fines[f] + 4 * skip, n, scratch);
      keep(scratch, small.energies[f][0]);
      k.floats(scratch, n).set(own(frame.coarse));
      keep(scratch, small.energies[f][1]);
    });
  });
  wideEnergies(frames, band, buffers);
}

/**
 * Block means of the squared sum-modified Laplacian of the cells at a step of so many cells, from every second cell each way; borders are
 * continued.
 */
function blockBends(grey: Float32Array, w: number, h: number, band: CellBand, step: number): Float32Array {
  const columns = Math.ceil(w / COARSER);
  const out = new Float32Array(columns * Math.ceil(band.rows / COARSER));
  const count = new Float32Array(out.length);
  for (let y = band.top; y < band.top + band.rows; y += 2) {
    const up = (y >= step ? y - step : 0) * w;
    const down = (y + step < h ? y + step : h - 1) * w;
    const row = y * w;
    const block = (((y - band.top) / COARSER) | 0) * columns;
    for (let x = 0; x < w; x += 2) {
      const left = grey[row + (x >= step ? x - step : 0)];
      const right = grey[row + (x + step < w ? x + step : w - 1)];
      const twice = 2 * grey[row + x];
      const e = Math.abs(twice - left - right) + Math.abs(twice - grey[up + x] - grey[down + x]);
      const k = block + ((x / COARSER) | 0);
      out[k] += e * e;
      count[k]++;
    }
  }
  for (let k = 0; k < out.length; k++) out[k] /= count[k];
  return out;
}
