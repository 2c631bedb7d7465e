import { type BenchState } from './benchState';

type Watched = Pick<BenchState, 'history' | 'session' | 'live' | 'tool'>;

/** What a change of the state comes of: a movement that may go on (of a slider, a drag, a stroke), one act of the hand, or neither. */
export type Cause = 'movement' | 'act' | 'other';

/** What a change comes of. */
export function causeOf(now: Watched, before: Watched): Cause {
  if (now.history !== before.history) {
    const last = now.history.past[now.history.past.length - 1];
    return last?.gesture === undefined ? 'act' : 'movement';
  }
  if (now.live !== before.live) return now.live ? 'movement' : 'act';
  return now.session !== before.session || now.tool !== before.tool ? 'act' : 'other';
}
