/** What a worker says once it holds its lock. */
export const ALIVE = 'marsh: alive';

/** The lock that a worker holds as long as it lives (Web Locks API): who waits for it learns of its end, however it ended. */
export const lifeLock = (name: string): string => `marsh.worker.${name}`;

/** Takes the worker's lock for good and says so; where the browser has no locks nothing is said. */
export function holdLifeLock(): void {
  const locks = navigator.locks as LockManager | undefined;
  locks
    ?.request(lifeLock(self.name), () => {
      (self as unknown as { postMessage: (message: string) => void }).postMessage(ALIVE);
      return new Promise<never>(() => undefined);
    })
    .catch(() => undefined);
}
