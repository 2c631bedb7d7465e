const waiting = new WeakMap<AbortSignal, Set<() => void>>();

/**
 * Calls a function when a signal is aborted. However many wait for one signal, it has one listener: hundreds of jobs that belong together
 * are no leak.
 * @returns takes it back
 */
export function onAbort(signal: AbortSignal, call: () => void): () => void {
  let calls = waiting.get(signal);
  if (!calls) {
    const all = new Set<() => void>();
    calls = all;
    waiting.set(signal, all);
    signal.addEventListener('abort', () => all.forEach((each) => each()), { once: true });
  }
  calls.add(call);
  return () => void calls.delete(call);
}
