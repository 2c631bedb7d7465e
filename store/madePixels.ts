import { type SetMeasures } from '@/core/capture/setMeasures';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { panoramaOf } from '@/core/recipe/setFrames';
import { type BenchState, type MergedState } from './benchState';

/** What was made so far. */
export type MadeState = Pick<BenchState, 'decoded' | 'made' | 'cuts' | 'merged' | 'proxies' | 'rival'>;

type Levels = readonly EncodedImage[];

/** What was made for a node and is not kept with the recipe. */
export function pictureMade(state: Pick<MadeState, 'made'>, hash: string | undefined): Levels | undefined {
  const value = hash === undefined ? undefined : state.made[hash];
  return value?.is === 'picture' ? value.levels : undefined;
}

/** The pixels of a frame as its set is prepared; as it was shot until then. */
export function preparedLevels(
  state: Pick<MadeState, 'decoded' | 'made'>,
  scope: SetScope,
  frame: Pick<Frame, 'id' | 'hash'>,
): Levels {
  return pictureMade(state, setGraph(scope).prepared.get(frame.id)) ?? state.decoded[frame.hash].levels;
}

/** The pixels of a frame as it is merged and laid as a layer: bent where that is asked for and made. */
export function drawnLevels(
  state: Pick<MadeState, 'decoded' | 'made'>,
  scope: SetScope,
  frame: Pick<Frame, 'id' | 'hash'>,
): Levels {
  return pictureMade(state, setGraph(scope).drawn.get(frame.id)) ?? preparedLevels(state, scope, frame);
}

/** The merged bracket of a view, of its head. */
const viewLevels = (
  state: Pick<MadeState, 'made'>,
  scope: SetScope,
  { id }: Pick<Frame, 'id'>,
): Levels | undefined => pictureMade(state, setGraph(scope).views.get(id)?.picture);

/** The pixels that the merge takes for a frame: of a view's head the merged bracket, of every other one the frame as it is drawn. */
export function mergedLevels(
  state: Pick<MadeState, 'decoded' | 'made'>,
  scope: SetScope,
  frame: Pick<Frame, 'id' | 'hash'>,
): Levels {
  return viewLevels(state, scope, frame) ?? drawnLevels(state, scope, frame);
}

/** The pixels that the fit takes for a frame: of a view's head the merged bracket, of every other one the frame as its set is prepared. */
export function joinedLevels(
  state: Pick<MadeState, 'decoded' | 'made'>,
  scope: SetScope,
  frame: Pick<Frame, 'id' | 'hash'>,
): Levels {
  return viewLevels(state, scope, frame) ?? preparedLevels(state, scope, frame);
}

/** What the frames of a set say of each other, once that was measured. */
export function measuresOf(state: Pick<MadeState, 'made'>, scope: SetScope): SetMeasures | undefined {
  const value = state.made[setGraph(scope).measures];
  return value?.is === 'fact' ? (value.value as SetMeasures) : undefined;
}

/** The merge of a set as the recipe now asks for it; undefined while it is not made. */
export function mergedNow(state: Pick<MadeState, 'merged'>, scope: SetScope): MergedState | undefined {
  const merged = state.merged[scope.set.id];
  return merged?.key === setGraph(scope).merge ? merged : undefined;
}

/** What stands on the table as a set's merge: the whole where it is up to date, a small first merge until then, else what was merged last. */
export function shownMerge(
  state: Pick<MadeState, 'merged' | 'proxies'>,
  scope: SetScope,
): MergedState | undefined {
  const key = setGraph(scope).merge;
  const [merged, proxy] = [state.merged[scope.set.id], state.proxies[scope.set.id]];
  if (merged?.key !== key && proxy?.scene && proxy.key === key) return proxy.scene;
  return merged;
}

/** frames are looked at this large at most, pixels of the long edge */
const LOOKED_AT = 1200;

/** What a panorama is joined from, small: one picture for each of its frames, undefined where a frame is not at hand. */
export function smallFrames(
  state: Pick<MadeState, 'decoded' | 'made'>,
  scope: SetScope,
): (EncodedImage | undefined)[] {
  return (panoramaOf(scope)?.frames ?? []).map((id) => {
    const frame = scope.frames.find((f) => f.id === id);
    if (!frame || !state.decoded[frame.hash]) return undefined;
    const levels = joinedLevels(state, scope, frame);
    return (
      levels.find(({ width, height }) => Math.max(width, height) <= LOOKED_AT) ?? levels[levels.length - 1]
    );
  });
}
