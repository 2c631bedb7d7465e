import { type BenchState } from './benchState';

type Moved = Pick<BenchState, 'history' | 'live'>;

const gestureOf = ({ history }: Moved): string | undefined => history.past[history.past.length - 1]?.gesture;

/** Whether a state comes of a movement that may go on: of a slider, a drag or a stroke. */
export function isMovement(now: Moved, before: Moved): boolean {
  if (now.history !== before.history) return gestureOf(now) !== undefined;
  return now.live !== before.live && now.live !== undefined;
}
