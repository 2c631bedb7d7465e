import { useCallback } from 'react';
import { type Look } from '@/store/session';
import { useBenchParts } from '@/stations/benchContext';
import { lookedAt } from './lookedAt';
import { useHeldKey } from './useBenchKeys';

/** b shows the picture before the step and after it by turns, or before it as long as it is held. @param looks what the station can show, its own first */
export function useBeforeKey(looks: readonly Look[]): void {
  const { bench } = useBenchParts();
  const isThere = looks.includes('before');
  const [first] = looks;
  const swap = useCallback(() => {
    const { look } = bench.store.getState().session;
    if (isThere) bench.actions.go({ look: look === 'before' ? first : 'before' });
  }, [bench, isThere, first]);
  const hold = useCallback(
    () => (isThere ? lookedAt(bench, { look: 'before' }) : () => undefined),
    [bench, isThere],
  );
  useHeldKey('b', swap, hold);
}
