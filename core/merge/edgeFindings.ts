import { type Finding, judge } from '../proof/finding';
import { enlarged, type StrongEdge, strongEdges } from '../proof/measure/edgeProfiles';
import { fringeOf } from '../proof/measure/fringe';
import { haloOf } from '../proof/measure/halo';
import { levelAtHand } from '../raster/awayPixels';
import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3, toLevel } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { linearRows } from './radiance/linearRows';
import { radianceBands } from './radiance/mergeRadiance';
import { radianceBand } from './radiance/radianceBand';
import { srgbResponse } from './radiance/response';
import { tonesOf } from './radiance/toneMap';

/** A frame with its levels, fitted, exposure relative to the reference. */
export interface LevelledFrame {
  readonly levels: readonly EncodedImage[];
  readonly matrix: Matrix3;
  readonly stops: number;
}

const HALO_EDGE = 900;
const FRINGE_EDGE = 2200;

const levelFor = (width: number, height: number, edge: number): number =>
  Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / edge)));

/** Tone of the scene at a level, stops at the reference's exposure: a small radiance merge of the frames. */
export function sceneTone(
  frames: readonly LevelledFrame[],
  level: number,
  width: number,
  height: number,
): Float32Array {
  const inputs = frames.map((f) => ({
    image: f.levels[Math.min(level, f.levels.length - 1)],
    matrix: toLevel(f.matrix, level),
    stops: f.stops,
  }));
  const tone = new Float32Array(width * height);
  for (const band of radianceBands(width, height))
    tone.set(tonesOf(radianceBand(inputs, srgbResponse(), band, 2).planes), band.y * width);
  return tone;
}

/**
 * Halo and fringe of a picture against the frames that it was made from, on the reference's grid.
 * @param moved places that one frame alone makes: there the frames together are no truth
 */
export function edgeFindings(
  levels: readonly EncodedImage[],
  frames: readonly LevelledFrame[],
  moved: readonly Rectangle[] = [],
): Finding[] {
  const [full] = levels;
  const atHand = Math.max(0, ...frames.map((f) => levelAtHand(f.levels, 0)));
  const levelOf = (edge: number): number =>
    Math.min(levels.length - 1, Math.max(atHand, levelFor(full.width, full.height, edge)));
  const [haloLevel, fringeLevel] = [levelOf(HALO_EDGE), levelOf(FRINGE_EDGE)];
  const linearAt = (level: number): Float32Array[] => linearRows(levels[level], 0, levels[level].height);
  const small = levels[haloLevel];
  const scene = sceneTone(frames, haloLevel, small.width, small.height);
  const edges = stillEdges(strongEdges(scene, small.width, small.height), moved, haloLevel);
  const tone = tonesOf(linearAt(haloLevel));
  const halo = haloOf(tone, scene, small.width, small.height, edges);
  const fine = levels[fringeLevel];
  const fineTone =
    fringeLevel === haloLevel ? scene : sceneTone(frames, fringeLevel, fine.width, fine.height);
  const fineEdges =
    fringeLevel === haloLevel
      ? edges
      : stillEdges(strongEdges(fineTone, fine.width, fine.height), moved, fringeLevel);
  const fringe = fringeOf(
    linearAt(fringeLevel),
    fine.width,
    fine.height,
    fineEdges,
    frames.map((f) => ({
      image: f.levels[Math.min(fringeLevel, f.levels.length - 1)],
      matrix: toLevel(f.matrix, fringeLevel),
      stops: f.stops,
    })),
  );
  return [
    judge('merge.halo', halo.value, enlarged(halo.where, 2 ** haloLevel)),
    judge('merge.fringe', fringe.value, enlarged(fringe.where, 2 ** fringeLevel)),
  ];
}

/** how far beside a place that moved its edge is still read, share of the place's own size */
const BESIDE = 0.15;

/** Edges outside of what moved. @param level of the edges' picture; the places are of the full size */
function stillEdges(
  edges: readonly StrongEdge[],
  moved: readonly Rectangle[],
  level: number,
): readonly StrongEdge[] {
  const boxes = moved.map(({ x, y, width, height }) => {
    const k = 2 ** -level;
    const [mx, my] = [BESIDE * width, BESIDE * height];
    return [(x - mx) * k, (y - my) * k, (x + width + mx) * k, (y + height + my) * k];
  });
  return edges.filter(
    (e) => !boxes.some(([x0, y0, x1, y1]) => e.x >= x0 && e.x <= x1 && e.y >= y0 && e.y <= y1),
  );
}
