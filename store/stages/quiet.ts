/** Waits until edits have been quiet for a while: what only findings need must not slow what is looked at. */
export function quiet(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => clearTimeout(timer), { once: true });
  });
}

export const QUIET_PREVIEW = 300;
export const QUIET_PROOF = 600;
