import { type BenchState } from './benchState';

type Watched = Pick<BenchState, 'history' | 'session' | 'live' | 'tool'>;

/** What a change of the state comes of: a movement that may go on (of a slider, a drag, a stroke), one act of the hand, or neither. */
export type Cause = 'movement' | 'act' | 'other';

/** What a change comes of. A step taken back is an act, whatever made it; what is measured and logged beside the steps is neither. */
export function causeOf(now: Watched, before: Watched): Cause {
  const [step, earlier] = [now, before].map(({ history }) => history.past[history.past.length - 1]);
  if (step !== earlier) {
    const isTakenBack = now.history.future.length > before.history.future.length;
    return step?.gesture === undefined || isTakenBack ? 'act' : 'movement';
  }
  if (now.live !== before.live) return now.live ? 'movement' : 'act';
  return now.session !== before.session || now.tool !== before.tool ? 'act' : 'other';
}
