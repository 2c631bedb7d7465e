/** Says on standard error what a command is doing. */
export const progress = (text: string): void => void process.stderr.write(`${text}\n`);

/** percent between two lines */
const STEP = 20;

/**
 * Says how far something is: a line each fifth, so that a log stays short.
 * @returns to be told the share that is done, 0…1
 */
export function progressOf(text: string): (share: number) => void {
  progress(text);
  let said = 0;
  return (share) => {
    const percent = STEP * Math.floor((100 * share) / STEP);
    if (percent <= said || percent >= 100) return;
    said = percent;
    progress(`${text}: ${percent} %`);
  };
}
