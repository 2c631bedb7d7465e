/** How far a step was at a moment. */
export interface ProgressReading {
  /** milliseconds */
  readonly at: number;
  /** share of the work done, 0…1 */
  readonly done: number;
}

/** nothing is said of a step before it went on for so long, milliseconds, and came so far */
const LEAST_TIME = 4000;
const LEAST_DONE = 0.04;

/**
 * Seconds that a step still takes, by how fast it went in the latter half of the time so far: its beginning may have been of another kind.
 * @param readings from the step's start on, in order
 * @returns undefined while too little is known
 */
export function secondsLeft(readings: readonly ProgressReading[]): number | undefined {
  const [first, last] = [readings[0], readings[readings.length - 1]];
  if (!first || !last || last.at - first.at < LEAST_TIME || last.done < LEAST_DONE) return undefined;
  const half = (first.at + last.at) / 2;
  const from = readings.findLast((r) => r.at <= half) ?? first;
  const rate = (last.done - from.done) / (last.at - from.at);
  return rate > 0 ? (1 - last.done) / rate / 1000 : undefined;
}

/** Seconds in words that do not change with each of them; empty where little is left. */
export function leftInWords(seconds: number | undefined): string {
  if (seconds === undefined || seconds < 4) return '';
  if (seconds < 55) return `about ${5 * Math.max(1, Math.round(seconds / 5))} s left`;
  if (seconds < 90) return 'about a minute left';
  return `about ${Math.round(seconds / 60)} min left`;
}
