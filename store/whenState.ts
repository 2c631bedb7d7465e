import { type Bench, type BenchState } from './benchState';

/**
 * Waits until the bench stands as is asked for.
 * @param stands told every state of the bench; what it throws is what the wait fails with
 * @throws what `stands` throws, or the reason of the signal
 */
export function whenState(
  store: Bench['store'],
  stands: (state: BenchState) => boolean,
  signal?: AbortSignal,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const leave = (): void => {
      unsubscribe();
      signal?.removeEventListener('abort', onAbort);
    };
    const fail = (reason: unknown): void => {
      leave();
      reject(reason instanceof Error ? reason : new Error(String(reason)));
    };
    const onAbort = (): void => fail(signal?.reason);
    const look = (): void => {
      try {
        if (!stands(store.getState())) return;
      } catch (thrown) {
        return fail(thrown);
      }
      leave();
      resolve();
    };
    const unsubscribe = store.subscribe(look);
    signal?.addEventListener('abort', onAbort);
    if (signal?.aborted) onAbort();
    else look();
  });
}
