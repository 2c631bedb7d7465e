import { type Straighten, type Line } from '../finish/straighten';
import { type GroundCamera } from './groundView';
import { uprightsMeet } from './lines/levelCamera';

/** where the two uprights stand, over the width */
const UPRIGHTS = [0.15, 0.85] as const;

/**
 * What sets a picture upright and level, from how its camera was held: two lines along which things stand, and the horizon.
 * @param camera pixels of the picture
 */
export function straightenBy(
  { focal, principal: [cx, cy], horizon, roll = 0 }: GroundCamera,
  { width, height }: { readonly width: number; readonly height: number },
): Straighten {
  const turn = (roll * Math.PI) / 180;
  const pitch = Math.atan(((horizon - cy) * Math.cos(turn)) / focal);
  const [x, y, w] = uprightsMeet({ roll: turn, pitch, focal });
  const upright = (share: number): Line => {
    const [px, py] = [share * (width - 1), cy];
    // from a place in the middle towards where uprights meet
    const [dx, dy] = [x - w * (px - cx), y - w * (py - cy)];
    const by = height / 3 / dy;
    return [px - by * dx, py - by * dy, px + by * dx, py + by * dy];
  };
  const fall = Math.tan(turn);
  return {
    level: [0, horizon - fall * cx, width - 1, horizon + fall * (width - 1 - cx)],
    uprights: [upright(UPRIGHTS[0]), upright(UPRIGHTS[1])],
  };
}
