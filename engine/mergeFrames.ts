import { type Merged } from '@/core/merge/exposureFusion';
import { type FusionFrame, type MoverTakes } from '@/core/merge/fusionPlan';
import { type MoverChoice, type Movers } from '@/core/merge/movers/mover';
import { type FusionMeasures } from '@/core/merge/mertensWeight';
import { mergeChosen } from './mergeChosen';
import { restIfLarge } from './restIfLarge';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';
import { type MergeOptions } from './mergeOptions';

/** One frame of a bracket to be merged. */
export interface BracketFrame extends FusionFrame {
  /** exposure on a scale that all frames share, EV */
  readonly stops: number;
}

/** How movers are treated: the index of the reference among the frames, and what the user chose. */
export interface MoverOptions {
  readonly reference: number;
  readonly choices: readonly MoverChoice[];
}

/** share of the work that goes into finding what moved */
const FINDING = 0.15;

/**
 * Exposure fusion in the pool: the same steps and pixels as the core's own, band by band in parallel. What moved between the frames is
 * found first and taken from one frame each.
 */
export async function mergeFrames(
  pool: WorkerPool,
  frames: readonly BracketFrame[],
  width: number,
  height: number,
  measures: FusionMeasures,
  { reference, choices }: MoverOptions,
  { signal, onProgress }: MergeOptions = {},
): Promise<Merged> {
  // what the fit has grown to, and then what the search for movers has, is not needed beside what follows
  restIfLarge(pool, width * height);
  let done = 0;
  const found = (by: number): void => onProgress?.((FINDING * (done += by)) / frames.length);
  const { movers, takes } = await findTakes(
    pool,
    frames,
    width,
    height,
    { reference, choices },
    signal,
    found,
  );
  restIfLarge(pool, width * height);
  const merged = await mergeChosen(
    pool,
    frames,
    measures,
    width,
    height,
    { signal, onProgress: (share) => onProgress?.(FINDING + (1 - FINDING) * share) },
    takes,
  );
  return { ...merged, movers };
}

/** What moved between the frames, and which frame makes each such place. */
export async function findTakes(
  pool: WorkerPool,
  frames: readonly BracketFrame[],
  width: number,
  height: number,
  { reference, choices }: MoverOptions,
  signal: AbortSignal | undefined,
  advance: (by: number) => void,
): Promise<{ movers: Movers; takes: MoverTakes | undefined }> {
  const zero = frames[reference].stops;
  const lights = await Promise.all(
    frames.map(async (frame) => {
      const from = { ...frame, stops: frame.stops - zero };
      const light = await withWhole(
        pool,
        [frame.image],
        ([image]) => pool.run((tasks) => tasks.frameLight({ ...from, image }, width, height), { signal }),
        signal,
      );
      advance(1);
      return light;
    }),
  );
  const stops = frames.map((f) => f.stops);
  return pool.run((tasks) => tasks.moversOf(lights, stops, reference, width, height, choices), { signal });
}
