import { type ChartSettings } from '@/core/edits/chart/chart';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { invert, levelToFull, transform } from '@/core/raster/matrix3';
import { chartColours, type ChartCorners } from '@/core/match/chart/chartColours';
import { chartProfile } from '@/core/match/chart/chartProfile';
import { type Bench } from './benchState';

/** pixels that a chart is looked for in, and read from, at most */
const FOUND_IN = 5e5;
const READ_FROM = 2e6;

interface FrameLevel {
  readonly image: EncodedImage;
  readonly level: number;
}

/** A frame no larger than so many pixels; undefined where it is not read yet. */
function frameLevel(bench: Bench, frame: string, most: number): FrameLevel | undefined {
  const { history, decoded } = bench.store.getState();
  const hash = history.project.frames.find((f) => f.id === frame)?.hash ?? '';
  const levels = decoded[hash]?.levels;
  if (!levels) return undefined;
  const small = levels.findIndex((l) => l.away === undefined && l.width * l.height <= most);
  const level = small < 0 ? levels.length - 1 : small;
  return { image: levels[level], level };
}

/**
 * Colours by a chart whose corners are known.
 * @param corners full-size pixels of the frame
 * @returns undefined where too little of it can be told
 */
export function readChart(bench: Bench, frame: string, corners: ChartCorners): ChartSettings | undefined {
  const at = frameLevel(bench, frame, READ_FROM);
  if (!at) return undefined;
  const toLevel = invert(levelToFull(at.level));
  const colours = chartColours(
    at.image,
    corners.map(([x, y]) => transform(toLevel, x, y)),
  );
  const profile = colours && chartProfile(colours);
  return colours && profile && { frame, corners, colours, matrix: profile.matrix };
}

/** Where the chart lies in a frame: full-size pixels; `none` where there is none, undefined where the frame is not read or the search was cancelled. */
export async function chartIn(
  bench: Bench,
  frame: string,
  name: string,
): Promise<ChartCorners | 'none' | undefined> {
  const at = frameLevel(bench, frame, FOUND_IN);
  if (!at) return undefined;
  const found = await bench.actions.during(name, async (signal) => ({
    chart: await bench.pool.run((tasks) => tasks.findChart(at.image), { signal }),
  }));
  if (!found) return undefined;
  const toFull = levelToFull(at.level);
  return found.chart?.corners.map(([x, y]) => transform(toFull, x, y)) ?? 'none';
}
