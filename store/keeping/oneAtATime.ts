/** Lets what it is given run one after the other, in the order it came; one that fails does not hold up the next. */
export function oneAtATime(): <T>(run: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (run) => {
    const mine = last.then(run, run);
    last = mine;
    return mine;
  };
}
