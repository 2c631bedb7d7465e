/** Lets at most `size` at a time pass. */
export interface Turns {
  /** waits for a turn; @returns what ends it */
  readonly enter: () => Promise<() => void>;
}

export function turnsOf(size: number): Turns {
  const waiting: (() => void)[] = [];
  let free = size;
  const leave = (): void => {
    const next = waiting.shift();
    if (next) next();
    else free++;
  };
  return {
    enter: () =>
      new Promise((resolve) => {
        if (free > 0) {
          free--;
          resolve(leave);
        } else waiting.push(() => resolve(leave));
      }),
  };
}
