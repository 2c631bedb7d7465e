import { writeBytes } from './writeOutput';

/** Milliseconds of a command's steps. */
export interface Stopwatch {
  /** ends a step: it has taken what has passed since the last one ended */
  readonly lap: (step: string) => void;
  /** each step's, and the whole until now */
  readonly timesMs: () => Readonly<Record<string, number>>;
}

/** Starts at zero. */
export function stopwatch(): Stopwatch {
  const start = performance.now();
  const laps: Record<string, number> = {};
  let last = start;
  return {
    lap: (step) => {
      const now = performance.now();
      laps[step] = now - last;
      last = now;
    },
    timesMs: () => ({ ...laps, total: performance.now() - start }),
  };
}

/** Writes what a command has to report, with its times and the most memory it held, where a report is wanted. */
export async function writeReport(
  file: string | undefined,
  content: () => object,
  { timesMs }: Stopwatch,
): Promise<void> {
  if (file === undefined) return;
  const times = timesMs();
  const report = { ...content(), timesMs: times, peakMb: process.resourceUsage().maxRSS / 1024 };
  await writeBytes(file, `${JSON.stringify(report, undefined, 2)}\n`);
}
