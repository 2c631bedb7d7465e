import { type Bench } from '@/store/benchState';
import { type Session } from '@/store/session';

/** Looks at something else for a while. @returns goes back to what was looked at, unless that is another thing by then */
export function lookedAt(
  { store, actions }: Pick<Bench, 'store' | 'actions'>,
  at: Partial<Pick<Session, 'look' | 'before' | 'edit'>>,
): () => void {
  const { look, before, edit, station } = store.getState().session;
  actions.go(at);
  return () => {
    const { session } = store.getState();
    if (session.station === station && session.look === at.look) actions.go({ look, before, edit });
  };
}
