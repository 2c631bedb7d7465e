import { invert, type Matrix3, multiply, normalise } from '@/core/raster/matrix3';

/** Where the camera looks, against the view of the scene: degrees. A shift at the sensor is part of yaw and pitch. */
export interface Pose {
  /** to the right */
  readonly yaw: number;
  /** upwards */
  readonly pitch: number;
  /** clockwise, as seen from behind the camera */
  readonly roll: number;
}

/** A pinhole picture: size in pixels and focal length in pixels; camera axes x right, y down, z forward. */
export interface View {
  readonly width: number;
  readonly height: number;
  readonly focalPx: number;
}

const DEGREE = Math.PI / 180;

/** Pixel centre → direction. */
const toRay = (v: View): Matrix3 => [
  1 / v.focalPx,
  0,
  -(v.width - 1) / 2 / v.focalPx,
  0,
  1 / v.focalPx,
  -(v.height - 1) / 2 / v.focalPx,
  0,
  0,
  1,
];

/** Camera direction → scene direction: roll, then pitch, then yaw. */
export function rotation({ yaw, pitch, roll }: Pose): Matrix3 {
  const [cy, sy] = [Math.cos(yaw * DEGREE), Math.sin(yaw * DEGREE)];
  const [cp, sp] = [Math.cos(pitch * DEGREE), Math.sin(pitch * DEGREE)];
  const [cr, sr] = [Math.cos(roll * DEGREE), Math.sin(roll * DEGREE)];
  const Y: Matrix3 = [cy, 0, sy, 0, 1, 0, -sy, 0, cy];
  const P: Matrix3 = [1, 0, 0, 0, cp, -sp, 0, sp, cp];
  const R: Matrix3 = [cr, -sr, 0, sr, cr, 0, 0, 0, 1];
  return multiply(Y, multiply(P, R));
}

/** Frame pixel → pixel of the scene's own picture, for a camera that turns about its entrance pupil (no parallax). */
export function frameToScene(scene: View, frame: View, pose: Pose): Matrix3 {
  return normalise(multiply(invert(toRay(scene)), multiply(rotation(pose), toRay(frame))));
}
