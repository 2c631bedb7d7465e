import { findEdit } from '@/core/edits/ranked';
import { type Movers } from '@/core/merge/movers/mover';
import { NATURAL, type ToneWish } from '@/core/merge/radiance/toneMap';
import { type Finding } from '@/core/proof/finding';
import { mergedFrames, referenceOf } from '@/core/recipe/setFrames';
import { type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { tonePicture } from '@/engine/mergeRadiance';
import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type MergedState } from '../benchState';
import { drawnLevels } from '../madePixels';
import { quiet, QUIET_PROOF } from './quiet';
import { type Stage } from './stage';

/** The tone map of a set, as its edits have it. */
export const toneWish = ({ set }: SetScope): ToneWish => findEdit(set.edits, 'toneMap')?.settings ?? NATURAL;

type FittedFrames = ReturnType<typeof mergedFrames>;

export const placedFrames = (frames: FittedFrames) =>
  frames.map(({ frame, registration, width, height }) => ({
    width,
    height,
    matrix: registration.matrix,
    name: frame.file,
  }));

/** What findings of a merged bracket are made from: the picture that is seen, and what the merge tells. */
export interface SeenBracket {
  readonly image: EncodedImage;
  readonly levels: readonly EncodedImage[];
  readonly shares: readonly Uint8Array[];
  readonly movers?: Pick<Movers, 'list'>;
  readonly responseOff?: number;
}

/** Findings of a merged bracket: halos, fringes and what is lost are those of the picture that is seen. */
export async function bracketFindings(
  state: BenchState,
  scope: SetScope,
  { image, levels, shares, movers, responseOff }: SeenBracket,
  pool: WorkerPool,
  signal: AbortSignal,
): Promise<Finding[]> {
  const frames = mergedFrames(scope);
  const zero = referenceOf(scope)?.stops ?? 0;
  const levelled = frames.map(({ frame, registration }) => ({
    levels: drawnLevels(state, scope, frame),
    matrix: registration.matrix,
    stops: frame.stops - zero,
  }));
  const moved = movers?.list.map((m) => m.box) ?? [];
  const [findings, edges] = await Promise.all([
    pool.run((tasks) => tasks.mergeFindings({ image, shares, movers, responseOff }, placedFrames(frames)), {
      signal,
    }),
    pool.run((tasks) => tasks.edgeFindings(levels, levelled, moved), { signal }),
  ]);
  return [...findings, ...edges];
}

export const sameWish = (a: ToneWish | undefined, b: ToneWish): boolean =>
  a?.strength === b.strength && a.detail === b.detail;

/** Findings of a radiance merge measured again, where its tone map is another than the one they were measured under. */
export function tonedStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { id } = scope.set;
  const merged: MergedState | undefined = state.merged[id];
  const wish = toneWish(scope);
  const { toneBase } = merged ?? {};
  if (!merged || !toneBase || merged.key !== setGraph(scope).merge || sameWish(merged.toned, wish))
    return undefined;
  return {
    key: `toned ${merged.key} ${wish.strength} ${wish.detail}`,
    text: '',
    run: async (pool, signal) => {
      await quiet(QUIET_PROOF, signal);
      const image = await tonePicture(pool, merged.scene.levels[0], toneBase, wish, { signal });
      const levels = await pool.run((tasks) => tasks.levels(image), { signal });
      const { movers: list, responseOff } = merged;
      const seen = { image, levels, shares: merged.scene.shares, movers: { list }, responseOff };
      const findings = await bracketFindings(state, scope, seen, pool, signal);
      return (now) =>
        now.merged[id]?.key === merged.key
          ? { merged: { ...now.merged, [id]: { ...now.merged[id], findings, toned: wish } } }
          : {};
    },
  };
}
