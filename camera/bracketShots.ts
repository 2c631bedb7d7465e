import { type CaptureFacts } from '@/core/capture/captureFacts';
import { normalSource, randomSource } from '@/core/raster/random';
import { type Pose } from './pose';

/** One frame of a plan: where the camera points and how long it exposes. */
export interface Shot {
  readonly file: string;
  readonly pose: Pose;
  /** relative to the middle frame, EV */
  readonly stops: number;
  readonly facts: CaptureFacts;
}

/** How a handheld bracket is shot. */
export interface BracketPlan {
  readonly stops: readonly number[];
  /** exposure time of the middle frame, seconds */
  readonly seconds: number;
  readonly aperture: number;
  readonly iso: number;
  readonly focalLength: number;
  /** time of the first frame */
  readonly taken: string;
  readonly camera: string;
  /** standard deviation of the hand between frames, degrees */
  readonly shake: number;
  /** degrees */
  readonly turn: number;
  readonly seed: number;
}

/** The frames of a handheld bracket: the first as aimed, each next one where the hand has drifted to. */
export function bracketShots(plan: BracketPlan): Shot[] {
  const normal = normalSource(randomSource(plan.seed));
  const start = Date.parse(`${plan.taken}Z`);
  return plan.stops.map((stops, i) => {
    const seconds = plan.seconds * 2 ** stops;
    const drifted = { yaw: plan.shake * normal(), pitch: plan.shake * normal(), roll: plan.turn * normal() };
    const pose = i === 0 ? { yaw: 0, pitch: 0, roll: 0 } : drifted;
    const taken = new Date(start + 700 * i).toISOString().slice(0, 23);
    const { aperture, iso, focalLength, camera } = plan;
    return {
      file: `mill-${String(i + 1).padStart(2, '0')}.jpg`,
      pose,
      stops,
      facts: { seconds, aperture, iso, focalLength, taken, camera },
    };
  });
}
