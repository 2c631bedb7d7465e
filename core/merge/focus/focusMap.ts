import { type ReducedGrid } from '../../raster/reducedGrid';
import { type ChosenWeights } from '../blendWeights';
import { farAnswers } from './farAnswers';
import { type FocusEnergy } from './focusEnergy';
import { cellBands, type FocusBuffers, focusBuffers } from './focusPlan';
import { type LostPlaces, mapBand } from './mapBand';
import { shareBand } from './shareBand';

/** Which frame is sharp where. */
export interface FocusMap extends ChosenWeights {
  /** [cell] place in the order of the frames, 0 … frames − 1, fractions between two */
  readonly depth: Float32Array;
  /** on a coarser grid, 1 where there is structure that no frame shows sharp */
  readonly unsharp: ReducedGrid & { readonly cells: Float32Array };
  readonly lost: LostPlaces;
}

/**
 * The depth map of a focus set: each frame's share of the energy, regularised by filtering it along the edges of the picture. A place without
 * structure takes the answer of ever wider surroundings, by how surely they know. The engine runs the same three passes band by band.
 */
export function focusMap(frames: readonly FocusEnergy[]): FocusMap {
  const buffers = focusBuffers(frames[0], frames.length);
  const bands = cellBands(frames[0]);
  for (const band of bands) shareBand(frames, band, buffers);
  farAnswers(
    frames.map((f) => f.noise),
    buffers,
  );
  return mapOf(
    buffers,
    bands.map((band) => mapBand(frames, band, buffers)),
  );
}

/** The map that the passes have filled. @param lost of each band */
export function mapOf(
  { width, height, level, planes, depth, small }: FocusBuffers,
  lost: readonly LostPlaces[],
): FocusMap {
  const sum = (of: (l: LostPlaces) => number): number => lost.reduce((a, l) => a + of(l), 0);
  return {
    ...{ width, height, level, planes, depth },
    unsharp: { width: small.width, height: small.height, level: level + 2, cells: small.unsharp },
    lost: {
      cells: sum((l) => l.cells),
      windows: lost[0].windows.map((_, k): [number, number] => [
        sum((l) => l.windows[k][0]),
        sum((l) => l.windows[k][1]),
      ]),
    },
  };
}
