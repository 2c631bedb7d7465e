import { type EncodedImage } from '../../raster/encodedImage';
import { transform } from '../../raster/matrix3';
import { throughPairs } from '../../register/features/robustHomography';
import { chartColours, type ChartCorners, type PatchColour } from './chartColours';
import { CHART_COLUMNS, CHART_LIGHT, CHART_ROWS, luminance } from './chartPatches';
import { chartProfile } from './chartProfile';
import { flatPatches, type FlatPatch } from './flatPatches';
import { length2 } from '../../raster/length';

/** A chart that was found. */
export interface FoundChart {
  readonly corners: ChartCorners;
  /** patches of the 24 whose edges were found, the others follow from these */
  readonly edges: number;
  /** mean CIEDE2000 of its patches to the published ones once it is profiled: how surely it is this chart, and this way up */
  readonly deltaE: number;
}

/** most even patches that are looked at, the largest: writing and leaves have thousands */
const MOST_PATCHES = 500;
/** nearest neighbours of a patch that its grid may go on by */
const NEIGHBOURS = 6;
/** patches of 24 whose edges must be found */
const LEAST_EDGES = 10;
/** mean CIEDE2000 above which patches in a grid are another chart, or none */
const MOST_DELTA_E = 9;

/** rank correlation of how light the patches are with the published ones below which no light makes them the chart’s */
const LEAST_ALIKE = 0.5;
/** patches of a grid that is larger than any part of it that could be the chart and what lies beside it */
const MOST_CELLS = 60;

/** A patch at its place in a grid. */
interface GridCell {
  readonly column: number;
  readonly row: number;
  readonly patch: FlatPatch;
}

type Step = readonly [x: number, y: number];

/**
 * Finds the chart of 24 patches in a picture, also seen obliquely or lying on its side: even quadrangles that stand in a grid, laid on the chart in the
 * way in which their colours fit best.
 * @param image about 0.2 to 1 MP
 * @returns undefined where there is none, or it is too small
 */
export function findChart(image: EncodedImage): FoundChart | undefined {
  const all = flatPatches(image);
  const least = all.map((p) => p.area).sort((a, b) => b - a)[MOST_PATCHES] ?? 0;
  const patches = all.filter((p) => p.area > least);
  const grids = gridsOf(patches);
  const found = grids.flatMap(windowsOf).flatMap((window) =>
    cornersOf(window).flatMap((corners): FoundChart[] => {
      const colours = chartColours(image, corners);
      if (!colours || alikeInTone(colours) < LEAST_ALIKE) return [];
      const profile = chartProfile(colours);
      return profile ? [{ corners, edges: window.cells.length, deltaE: profile.differences.after }] : [];
    }),
  );
  const best = found.reduce<FoundChart | undefined>(
    (a, b) => (a === undefined || b.deltaE < a.deltaE ? b : a),
    undefined,
  );
  return best && best.deltaE < MOST_DELTA_E ? best : undefined;
}

/** Ranks of values, 0 for the least. */
function ranksOf(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((i, j) => values[i] - values[j]);
  const ranks = values.map(() => 0);
  order.forEach((i, rank) => (ranks[i] = rank));
  return ranks;
}

const PUBLISHED = ranksOf(CHART_LIGHT.map(luminance));

/** Rank correlation (Spearman 1904) of how light patches are with the published ones. */
function alikeInTone(colours: readonly PatchColour[]): number {
  const ranks = ranksOf(colours.map(({ light }) => luminance(light)));
  const n = ranks.length;
  const apart = ranks.reduce((sum, rank, i) => sum + (rank - PUBLISHED[i]) ** 2, 0);
  return 1 - (6 * apart) / (n * (n * n - 1));
}

const length = ([x, y]: Step): number => length2(x, y);
const between = (from: FlatPatch, to: FlatPatch): Step => [to.x - from.x, to.y - from.y];
const alike = (a: FlatPatch, b: FlatPatch): boolean => a.area < 2.2 * b.area && b.area < 2.2 * a.area;

/** Cells of a grid that lie under the chart when it is put somewhere on it, in the chart’s own columns and rows or across them. */
interface Window {
  readonly cells: readonly GridCell[];
  readonly upright: boolean;
}

/** Every place of the chart on a grid that covers enough of it. */
function windowsOf(cells: readonly GridCell[]): Window[] {
  const columns = cells.map((c) => c.column);
  const rows = cells.map((c) => c.row);
  const [left, top] = [Math.min(...columns), Math.min(...rows)];
  const [wide, high] = [Math.max(...columns) - left + 1, Math.max(...rows) - top + 1];
  const windows: Window[] = [];
  for (const upright of [true, false]) {
    const [across, down] = upright ? [CHART_COLUMNS, CHART_ROWS] : [CHART_ROWS, CHART_COLUMNS];
    for (let x = Math.min(0, wide - across); x <= Math.max(0, wide - across); x++)
      for (let y = Math.min(0, high - down); y <= Math.max(0, high - down); y++) {
        const under = cells
          .map((c) => ({ ...c, column: c.column - left - x, row: c.row - top - y }))
          .filter((c) => c.column >= 0 && c.row >= 0 && c.column < across && c.row < down);
        if (under.length >= LEAST_EDGES) windows.push({ cells: under, upright });
      }
  }
  return windows;
}

/** Most cells that the chart covers wherever it is put on a grid: steps along a diagonal reach the same patches, in a grid that is larger than the chart. */
const covered = (cells: readonly GridCell[]): number =>
  cells.length < LEAST_EDGES ? 0 : Math.max(0, ...windowsOf(cells).map((w) => w.cells.length));

/** Grids that can be grown, the fullest from each patch; each patch is in one at most. */
function gridsOf(patches: readonly FlatPatch[]): GridCell[][] {
  const grids: GridCell[][] = [];
  const used = new Set<FlatPatch>();
  for (const seed of patches) {
    if (used.has(seed)) continue;
    const near = patches
      .filter((p) => p !== seed && alike(p, seed) && length(between(seed, p)) < 3.2 * Math.sqrt(seed.area))
      .sort((p, q) => length(between(seed, p)) - length(between(seed, q)))
      .slice(0, NEIGHBOURS);
    let [best, most]: [GridCell[], number] = [[], LEAST_EDGES - 1];
    for (const across of near)
      for (const down of near) {
        const [u, v] = [between(seed, across), between(seed, down)];
        // a right-handed pair of neighbours, neither far from square to the other
        const sine = (u[0] * v[1] - u[1] * v[0]) / (length(u) * length(v));
        if (sine < 0.5 || length(u) > 2.5 * length(v) || length(v) > 2.5 * length(u)) continue;
        const grown = grownGrid(patches, seed, u, v);
        const own = grown.length > most ? covered(grown) : 0;
        if (own > most) [best, most] = [grown, own];
      }
    if (best.length === 0) continue;
    grids.push(best);
    for (const { patch } of best) used.add(patch);
  }
  return grids;
}

/** Grows a grid from a patch and the steps to its neighbours; every cell passes its own steps on, so that the grid may lie obliquely. */
function grownGrid(patches: readonly FlatPatch[], seed: FlatPatch, u: Step, v: Step): GridCell[] {
  const placed = new Map<string, GridCell>();
  const taken = new Set<FlatPatch>([seed]);
  const queue: { cell: GridCell; u: Step; v: Step }[] = [{ cell: { column: 0, row: 0, patch: seed }, u, v }];
  placed.set('0 0', queue[0].cell);
  for (let next = queue.shift(); next && placed.size < MOST_CELLS; next = queue.shift()) {
    const { cell, u: across, v: down } = next;
    for (const [dc, dr] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ]) {
      const key = `${cell.column + dc} ${cell.row + dr}`;
      if (placed.has(key)) continue;
      const step: Step = [dc * across[0] + dr * down[0], dc * across[1] + dr * down[1]];
      const [x, y] = [cell.patch.x + step[0], cell.patch.y + step[1]];
      const reach = 0.28 * Math.min(length(across), length(down));
      const patch = patches
        .filter((p) => !taken.has(p) && alike(p, cell.patch) && length2(p.x - x, p.y - y) < reach)
        .sort((p, q) => length2(p.x - x, p.y - y) - length2(q.x - x, q.y - y))
        .at(0);
      if (!patch) continue;
      taken.add(patch);
      const found = { column: cell.column + dc, row: cell.row + dr, patch };
      placed.set(key, found);
      const moved = between(cell.patch, patch);
      const sign = dc + dr;
      const own: Step = [sign * moved[0], sign * moved[1]];
      queue.push({ cell: found, u: dc === 0 ? across : own, v: dc === 0 ? own : down });
    }
  }
  return [...placed.values()];
}

/** Both ways in which the chart can lie at a place: its corners, the chart’s own left top first. */
function cornersOf({ cells, upright }: Window): ChartCorners[] {
  const matrix = throughPairs(
    cells.map(({ column, row, patch }) => ({
      ...{ x: column + 0.5, y: row + 0.5, u: patch.x, v: patch.y, spread: 1 },
    })),
  );
  if (!matrix) return [];
  const [across, down] = upright ? [CHART_COLUMNS, CHART_ROWS] : [CHART_ROWS, CHART_COLUMNS];
  const corners = [
    [0, 0],
    [across, 0],
    [across, down],
    [0, down],
  ].map(([x, y]) => transform(matrix, x, y));
  const turned = (by: number): ChartCorners => corners.map((_, i) => corners[(i + by) % 4]);
  return upright ? [corners, turned(2)] : [turned(1), turned(3)];
}
