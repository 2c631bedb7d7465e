import { sharedFloats } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { type ChosenWeights } from '../blendWeights';
import { type GridFrame } from '../frameOnGrid';
import { type NamedTakes, takeNamed } from '../seams/takeNamed';

/**
 * Puts what was pointed out in other frames into the reference, along the seams where the frames agree best.
 * @param named [cell] index of the frame that was pointed out there, −1 for none
 */
export function dabbedWeights(
  frames: readonly GridFrame[],
  reference: number,
  named: Int16Array,
  grid: ReducedGrid,
): ChosenWeights & Omit<NamedTakes, 'label'> {
  const n = grid.width * grid.height;
  const { label, ...taken } = takeNamed(frames, new Int16Array(n).fill(reference), named, reference, grid);
  const planes = frames.map((_, f) => {
    const plane = sharedFloats(n);
    for (let i = 0; i < n; i++) plane[i] = label[i] === f ? 1 : 0;
    return plane;
  });
  return { ...grid, planes, ...taken };
}
