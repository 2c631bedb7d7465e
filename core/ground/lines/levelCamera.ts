import { type VanishingPoint } from './lineFamilies';
import { length2, length3 } from '../../raster/length';

/** A camera by how it is held: radians, and its focal length over the long edge. */
export interface HeldCamera {
  /** positive where the horizon falls to the right */
  readonly roll: number;
  /** positive where it looks up */
  readonly pitch: number;
  readonly focal: number;
}

const turned = ([x, y, w]: VanishingPoint, by: number): VanishingPoint => {
  const [c, s] = [Math.cos(by), Math.sin(by)];
  return [c * x - s * y, s * x + c * y, w];
};

/** Where uprights meet. */
export const uprightsMeet = ({ roll, pitch, focal }: HeldCamera): VanishingPoint =>
  turned([0, focal * Math.cos(pitch), -Math.sin(pitch)], roll);

/** Where level lines meet that run so many radians to the right of the way the camera looks. */
export const levelsMeet = ({ roll, pitch, focal }: HeldCamera, azimuth: number): VanishingPoint =>
  turned(
    [
      focal * Math.sin(azimuth),
      focal * Math.cos(azimuth) * Math.sin(pitch),
      Math.cos(azimuth) * Math.cos(pitch),
    ],
    roll,
  );

/** How a camera of a known focal length is held whose uprights meet at a place. */
export function heldBy([x, y, w]: VanishingPoint, focal: number): HeldCamera {
  const side = y < 0 ? -1 : 1;
  const across = length2(x, y);
  return { roll: Math.atan2(-x * side, y * side), pitch: Math.atan2(-w * side * focal, across), focal };
}

/** The direction of level lines that meet at a place: radians to the right of the way the camera looks, a quarter turn to either side. */
export function azimuthOf(point: VanishingPoint, { roll, pitch, focal }: HeldCamera): number {
  const [x, y, w] = turned(point, -roll);
  const ahead = y * Math.sin(pitch) + focal * w * Math.cos(pitch);
  return Math.atan2(x * Math.sign(ahead || 1), Math.abs(ahead));
}

/** How far a place lies beside the horizon: the sine of the angle between its direction and level. */
export function offLevel(point: VanishingPoint, { roll, pitch, focal }: HeldCamera): number {
  const [x, y, w] = turned(point, -roll);
  return (y * Math.cos(pitch) - focal * w * Math.sin(pitch)) / length3(x, y, focal * w);
}
