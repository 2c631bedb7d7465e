import { labOf } from '../../colour/deltaE';
import { type Place } from '../finding';
import { type StrongEdge, valueAt, worstBlock } from './edgeProfiles';

/** pixels from the edge at which the colour of each side is read */
const SIDE = 5;

/**
 * Fringe of colour: chroma (CIE C*ab) on a strong edge beyond that of both its sides.
 * @param linear R G B planes, linear sRGB
 */
export function fringeOf(
  linear: readonly Float32Array[],
  width: number,
  height: number,
  edges: readonly StrongEdge[],
): { value: number; where?: Place } {
  const measure = ({ x, y, dx, dy }: StrongEdge): number => {
    const lab = (d: number) => {
      const [r, g, b] = linear.map((p) => valueAt(p, width, height, x + d * dx, y + d * dy));
      return labOf(r, g, b);
    };
    const [dark, light] = [lab(-SIDE), lab(SIDE)];
    let most = 0;
    for (let d = -2; d <= 2; d++) {
      const [L, a, b] = lab(d);
      const span = light[0] - dark[0];
      const t = Math.abs(span) > 1 ? Math.min(1, Math.max(0, (L - dark[0]) / span)) : 0.5;
      // a mixture of both sides has a colour between theirs
      const away = Math.hypot(
        a - (dark[1] + t * (light[1] - dark[1])),
        b - (dark[2] + t * (light[2] - dark[2])),
      );
      const beyond =
        Math.hypot(a, b) - Math.max(Math.hypot(dark[1], dark[2]), Math.hypot(light[1], light[2]));
      most = Math.max(most, Math.min(away, Math.max(0, beyond)));
    }
    return most;
  };
  return worstBlock(edges, measure, 32);
}
