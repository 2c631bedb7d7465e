import { type Place } from '../finding';
import { REACH, type StrongEdge, valueAt, worstBlock } from './edgeProfiles';

/**
 * Halo: how far the picture over- or undershoots beside strong edges, stops. On each side the tone near the edge is compared with the
 * tone further off, and what the scene itself does there is taken away.
 * @param picture tone of the merged or finished picture, stops
 * @param scene tone of the scene on the same grid
 */
export function haloOf(
  picture: Float32Array,
  scene: Float32Array,
  width: number,
  height: number,
  edges: readonly StrongEdge[],
): { value: number; where?: Place } {
  const reach = Math.max(6, REACH * Math.max(width, height));
  const measure = ({ x, y, dx, dy }: StrongEdge): number => {
    const at = (plane: Float32Array, d: number): number =>
      valueAt(plane, width, height, x + d * dx, y + d * dy);
    const side = (sign: 1 | -1): number => {
      let most = 0;
      for (let k = 0; k <= 3; k++) {
        const near = sign * (3 + (k * (reach * 0.4 - 3)) / 3);
        const far = sign * reach;
        const excess = at(picture, near) - at(picture, far) - (at(scene, near) - at(scene, far));
        // lighter on the light side, darker on the dark side
        most = Math.max(most, sign * excess);
      }
      return most;
    };
    return Math.max(side(1), side(-1));
  };
  return worstBlock(edges, measure, Math.max(16, Math.round(2 * reach)));
}
