import { type LensCorrection, NO_LENS } from '@/core/capture/lensFaults';
import { type SetKind } from '@/core/capture/setKind';
import { chooseProjection, placeCanvas } from '@/core/merge/panorama/canvas';
import { fitPanoramaSet, type TurnedFrame } from './fitPanoramaSet';
import { type MergeOptions } from './mergeOptions';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** What was found out about a set's lens. */
export interface MeasuredLens {
  readonly lens: LensCorrection;
  /** whether frames overlap enough, each elsewhere in its field, to tell how the lens bends and darkens */
  readonly turned: boolean;
  /** whether edges enough were found to tell the colours apart */
  readonly lateral: boolean;
}

/** finer than this nothing is known: a share of the radius, and stops */
const [FINEST, FINEST_STOPS] = [1e-5, 0.01];

/**
 * Measures what the lens did in frames as they were shot: lateral colour in each of them; bending and the light at the corners where a panorama
 * shows the same things in different places of the field.
 */
export async function measureLens(
  pool: WorkerPool,
  kind: SetKind,
  frames: readonly TurnedFrame[],
  reference: number,
  options: MergeOptions = {},
): Promise<MeasuredLens> {
  const { signal } = options;
  const lateral = await Promise.all(
    frames.map(({ levels }) =>
      withWhole(
        pool,
        [levels[0]],
        ([image]) => pool.run((tasks) => tasks.lateralColour(image), { signal }),
        signal,
      ),
    ),
  );
  const told = lateral.filter(({ red, blue }) => red !== 0 || blue !== 0);
  const middle = (of: (l: (typeof told)[number]) => number): number => {
    const sorted = told.map(of).sort((a, b) => a - b);
    return sorted.length > 0 ? rounded(sorted[sorted.length >> 1], FINEST) : 0;
  };
  const colours = { red: middle((l) => l.red), blue: middle((l) => l.blue) };
  const unbent = { ...NO_LENS, ...colours };
  if (kind !== 'panorama') return { lens: unbent, turned: false, lateral: told.length > 0 };
  const fit = await fitPanoramaSet(pool, frames, reference, { distortion: true }, options);
  if (fit.pairs.length === 0) return { lens: unbent, turned: false, lateral: told.length > 0 };
  const paper = placeCanvas(fit, chooseProjection(fit).recommended);
  const levels = frames.map((f) => f.levels);
  const { gains } = await pool.run((tasks) => tasks.planPanorama(levels, fit, paper), { signal });
  return {
    lens: {
      ...colours,
      distortion: rounded(fit.lens.k1, FINEST),
      vignette: rounded(gains.vignette, FINEST_STOPS),
    },
    turned: true,
    lateral: told.length > 0,
  };
}

/** Without the digits that nobody measured. */
const rounded = (v: number, step: number): number => Number((Math.round(v / step) * step).toFixed(6));
