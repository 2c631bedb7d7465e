import { type Kernels, kernels } from '../../kernels/kernels';
import { gridRow } from '../../raster/reducedGrid';
import { type FocusEnergy } from './focusEnergy';
import { COARSER, type CellBand, type FocusBuffers, reachedRows } from './focusPlan';
import { askInto, plainSurroundings } from './surroundings';

/** windows over which a place asks its near surroundings, cells */
const NEAR = [3, 8] as const;
/** rows that a guided filter of the widest of them reaches */
const HALO = 16;
const TINY = 1e-12;

/** Places with clear structure, and those among them of which the map keeps little; counts of cells. */
export interface LostPlaces {
  readonly cells: number;
  /** by near cells, as stems are, and by the blocks around, as leaves are: single pixels differ by the blocks of a JPEG */
  readonly windows: readonly (readonly [clear: number, lost: number])[];
}

/** structure that speaks for itself: energy over that of the noise, and at least */
const CLEAR = 20;
const LEAST = 1e-4;
/** little of the detail: less than this share of its energy */
const LITTLE = 0.4;
/** how the kernel packs two counts into one number */
const PACKED = 2 ** 26;

/**
 * The last pass of a depth map, for one band: a place takes the answer of its near surroundings as far as they know, and of the wide ones for
 * the rest. Frames that are equally sharp share a place, which lowers its noise.
 * @returns how much of the detail the map keeps
 */
export function mapBand(frames: readonly FocusEnergy[], band: CellBand, buffers: FocusBuffers): LostPlaces {
  const k = kernels();
  return k ? mapBandKernels(k, frames, band, buffers) : plainMapBand(frames, band, buffers);
}

const floorOf = (frames: readonly FocusEnergy[]): number =>
  CLEAR * Math.max(...frames.map((f) => f.noise)) + LEAST;

function mapBandKernels(
  k: Kernels,
  frames: readonly FocusEnergy[],
  band: CellBand,
  buffers: FocusBuffers,
): LostPlaces {
  const { width, small } = buffers;
  const { rows, skip, around, own } = reachedRows(band, buffers, HALO);
  const n = band.rows * width;
  return k.borrow(() => {
    const { mixed, left } = askInto(
      k,
      {
        ...{ width, height: rows },
        guide: k.upload(around(buffers.guide)),
        sure: k.upload(around(buffers.sure)),
        weighted: buffers.weighted.map((p) => k.upload(around(p))),
      },
      NEAR,
      false,
    );
    const line = k.take(4 * small.width + 16);
    const spread = (plane: Float32Array): number => {
      const out = k.take(4 * n);
      k.spreadCellRows(
        ...[k.upload(plane), small.width, small.height, 0, COARSER, 0, band.top, width, band.rows, 0],
        ...[line, out],
      );
      return out;
    };
    const list = (planes: readonly Float32Array[]): number =>
      k.addresses(planes.map((p) => k.upload(own(p))));
    const planes = frames.map(() => k.take(4 * n));
    const depth = k.take(4 * n);
    const made = k.addresses(planes);
    k.settleShares(
      ...[k.addresses(mixed.map((p) => p + 4 * skip)), left + 4 * skip, k.addresses(small.far.map(spread))],
      ...[list(frames.map((f) => f.fine)), frames.length, n, made, depth],
    );
    planes.forEach((at, f) => own(buffers.planes[f]).set(k.floats(at, n)));
    own(buffers.depth).set(k.floats(depth, n));
    const counted = (energies: number): [number, number] => {
      const packed = k.countLost(energies, made, frames.length, n, floorOf(frames), LITTLE);
      return [packed % PACKED, Math.floor(packed / PACKED)];
    };
    return {
      cells: n,
      windows: [counted(list(buffers.smooth)), counted(k.addresses(small.around.map(spread)))],
    };
  });
}

/** The plain form of {@link mapBand}, which the kernels are held against. */
export function plainMapBand(
  frames: readonly FocusEnergy[],
  band: CellBand,
  buffers: FocusBuffers,
): LostPlaces {
  const { width, small } = buffers;
  const { rows, skip, around, own } = reachedRows(band, buffers, HALO);
  const { mixed, left } = plainSurroundings(
    {
      ...{ width, height: rows, guide: around(buffers.guide), sure: around(buffers.sure) },
      weighted: buffers.weighted.map(around),
    },
    NEAR,
    false,
  );
  const n = band.rows * width;
  const spread = (plane: Float32Array): Float32Array => {
    const out = new Float32Array(n);
    const grid = { width: small.width, height: small.height, level: Math.log2(COARSER) };
    for (let y = 0; y < band.rows; y++)
      gridRow(out.subarray(y * width, (y + 1) * width), plane, grid, 0, band.top + y);
    return out;
  };
  const far = small.far.map(spread);
  const fine = frames.map((f) => own(f.fine));
  const planes = buffers.planes.map(own);
  const depth = own(buffers.depth).fill(0);
  for (let i = 0; i < n; i++) {
    let total = 0;
    planes.forEach((plane, f) => {
      plane[i] = fine[f][i] < 0 ? 0 : mixed[f][skip + i] + left[skip + i] * far[f][i] + TINY;
      total += plane[i];
    });
    planes.forEach((plane, f) => {
      plane[i] = total > 0 ? plane[i] / total : f === 0 ? 1 : 0;
      depth[i] += f * plane[i];
    });
  }
  const counted = (energies: readonly Float32Array[]): [number, number] => {
    let [clear, lost] = [0, 0];
    for (let i = 0; i < n; i++) {
      const most = Math.max(...energies.map((e) => e[i]));
      if (most < floorOf(frames)) continue;
      clear++;
      if (energies.reduce((sum, e, f) => sum + e[i] * planes[f][i], 0) < LITTLE * most) lost++;
    }
    return [clear, lost];
  };
  return { cells: n, windows: [counted(buffers.smooth.map(own)), counted(small.around.map(spread))] };
}
