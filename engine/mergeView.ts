import { type FusionMeasures } from '@/core/merge/mertensWeight';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { multiply, normalise } from '@/core/raster/matrix3';
import { fitFrame, type FitInput } from './fitFrames';
import { mergeFrames } from './mergeFrames';
import { type MergeOptions } from './mergeOptions';
import { type WorkerPool } from './workerPool';

/** One direction of a bracketed panorama, merged into a frame. */
export interface MergedView {
  /** the merged picture and its halvings, in the head's geometry */
  readonly levels: readonly EncodedImage[];
  /** of each frame: head pixel → frame pixel */
  readonly registrations: readonly Registration[];
}

/** How a frame lies on the panorama's reference: through its view's head. @param view of the head, @param own head pixel → frame pixel */
export function throughView(view: Registration, own: Registration): Registration {
  return {
    ...own,
    fitted: view.fitted && own.fitted,
    why: own.fitted ? view.why : own.why,
    matrix: normalise(multiply(own.matrix, view.matrix)),
  };
}

/**
 * Fits and merges the bracket of one view; what cannot be fitted is left out.
 * @param head index of the frame that the others are fitted to
 * @param known registrations that were measured before
 */
export async function mergeView(
  pool: WorkerPool,
  frames: readonly FitInput[],
  head: number,
  measures: FusionMeasures,
  known: readonly (Registration | undefined)[] = [],
  { signal }: MergeOptions = {},
): Promise<MergedView> {
  const registrations = await Promise.all(
    frames.map(
      async (frame, i) =>
        (i === head ? referenceRegistration() : known[i]) ??
        (await fitFrame(pool, frames[head], frame, { motion: 'auto' }, signal)),
    ),
  );
  const used = frames.flatMap((frame, i) =>
    registrations[i].fitted ? [{ ...frame, matrix: registrations[i].matrix }] : [],
  );
  const { image: own } = frames[head];
  const reference = used.findIndex(({ image }) => image === own);
  const { image } = await mergeFrames(
    pool,
    used,
    own.width,
    own.height,
    measures,
    { reference, choices: [] },
    { signal },
  );
  return { levels: await pool.run((tasks) => tasks.levels(image), { signal }), registrations };
}
