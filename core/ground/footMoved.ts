import { type Place } from '../layers/place';
import { dot, groundView } from './groundView';
import { type Standing, type Stood } from './standing';

/**
 * The place of a plate whose foot is put somewhere else on the same ground: it keeps its metres, so that its size follows from how far it then is, and the horizon
 * cuts it where it did.
 * @param long the picture's long edge, pixels
 * @param to pixel of the picture
 * @returns undefined where that lies above the horizon
 */
export function footMoved(
  { camera }: Pick<Standing, 'camera'>,
  { at }: Stood,
  place: Place,
  from: readonly [number, number],
  to: readonly [number, number],
  long: number,
): Place | undefined {
  const view = groundView(camera);
  const next = view.groundAt(...to);
  if (!next) return undefined;
  const forward = view.axes[2];
  return footAt(place, from, to, dot(at, forward) / dot(next, forward), long);
}

/**
 * The place of a plate that is made larger about its foot, which is put somewhere.
 * @param from pixel of the picture where its foot is @param to … where it comes to @param grows how many times as large
 */
export function footAt(
  place: Place,
  from: readonly [number, number],
  to: readonly [number, number],
  grows: number,
  long: number,
): Place {
  // its middle keeps its way from the foot, in metres
  const middle = [place.x * long - 0.5, place.y * long - 0.5];
  return {
    ...place,
    x: (to[0] + grows * (middle[0] - from[0]) + 0.5) / long,
    y: (to[1] + grows * (middle[1] - from[1]) + 0.5) / long,
    size: place.size * grows,
  };
}
