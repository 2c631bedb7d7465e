import { type FramePreparation } from '@/core/capture/prepareFrame';
import { evenGains } from '@/core/capture/prepareImage';
import { type SetMeasures } from '@/core/capture/setMeasures';
import { type Value } from '@/core/graph/tile';
import { matchMapFrom } from '@/core/match/keptMatch';
import { isAway, levelAtHand } from '@/core/raster/awayPixels';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { withWhole } from '@/engine/wholeFrames';
import { type BenchState } from '../benchState';
import { measuresOf } from '../madePixels';
import { type Stage } from './stage';

/** What the frames of a set say of each other. */
export function measureStage({ decoded, made }: BenchState, scope: SetScope): Stage | undefined {
  const { measures } = setGraph(scope);
  const used = scope.frames.filter((f) => f.used);
  if (made[measures] || used.length < 2 || used.some((f) => !decoded[f.hash])) return undefined;
  return {
    key: `measure ${measures}`,
    text: '',
    run: async (pool, signal) => {
      const levels = used.map((f) => decoded[f.hash].levels);
      const reference = Math.max(
        0,
        used.findIndex((f) => f.id === scope.set.reference),
      );
      const stops = used.map((f) => f.stops);
      const value = await pool.run((tasks) => tasks.measureSet(levels, stops, reference), { signal });
      return (state) => ({ made: { ...state.made, [measures]: { is: 'fact', value } } });
    },
  };
}

/** a balance this near to the reference's is left alone, stops */
const SAME_BALANCE = 0.03;

/** By how much a frame is balanced to its set; undefined where it is left as it is. */
export function balanceOf(
  state: Pick<BenchState, 'made'>,
  scope: SetScope,
  frame: Frame,
): SetMeasures['balance'][number] {
  if (scope.set.prepare.balance !== 'even') return undefined;
  const used = scope.frames.filter((f) => f.used);
  const found = measuresOf(state, scope)?.balance[used.indexOf(frame)];
  return found && Math.max(...found.map(Math.abs)) >= SAME_BALANCE ? found : undefined;
}

/** What a set does to a frame before it is fitted; undefined where the frame is used as it is. */
export function preparationOf(
  state: Pick<BenchState, 'made'>,
  scope: SetScope,
  frame: Frame,
): FramePreparation | undefined {
  const { lens, dust, like } = scope.set.prepare;
  const balance = balanceOf(state, scope, frame);
  const shades = dust ? (measuresOf(state, scope)?.shades ?? []) : [];
  const own = like?.find((l) => l.frame === frame.id);
  if (!balance && !lens && !own && shades.length === 0) return undefined;
  return {
    ...(shades.length > 0 ? { shades } : {}),
    ...(balance ? { gains: evenGains(balance) } : {}),
    ...(own ? { like: matchMapFrom(own) } : {}),
    ...(lens ? { lens } : {}),
  };
}

/** Prepares the frames of a set as the recipe asks. */
export function prepareStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { prepared, decoded: shot } = setGraph(scope);
  const lacking = scope.frames.flatMap((frame) => {
    const node = prepared.get(frame.id);
    if (node === undefined || node === shot.get(frame.id)) return [];
    const known = state.made[node];
    // one that is looked at again is whole, and so is what is prepared of it
    const isBack =
      known?.is === 'picture' &&
      isAway(known.levels) &&
      !isAway(state.decoded[frame.hash]?.levels ?? known.levels);
    if (known && !isBack) return [];
    // a frame that is left out may still be decoded, or be gone: the others do not wait for it
    if (!state.decoded[frame.hash]) return [];
    return [{ frame, node, how: preparationOf(state, scope, frame) }];
  });
  if (lacking.length === 0) return undefined;
  const changed = lacking.filter(({ how }) => how).length;
  return {
    key: `prepare ${lacking.map(({ node }) => node).join(' ')}`,
    text: changed > 0 ? `Preparing ${changed} ${changed === 1 ? 'frame' : 'frames'}` : '',
    run: async (pool, signal, progress) => {
      let done = 0;
      const made = await Promise.all(
        lacking.map(async ({ frame, node, how }): Promise<[string, Value]> => {
          const { levels } = state.decoded[frame.hash];
          // of a frame that is away what is prepared is away too
          const kept = isAway(levels) ? levels[levelAtHand(levels, 0)] : undefined;
          const away = kept && { name: node, staying: kept.width * kept.height };
          const prepared =
            (by: FramePreparation) =>
            ([image]: readonly EncodedImage[]): Promise<readonly EncodedImage[]> =>
              pool.run((tasks) => tasks.prepare(image, by, away), { signal });
          const own = how ? await withWhole(pool, [levels[0]], prepared(how), signal) : levels;
          progress(++done / lacking.length);
          return [node, { is: 'picture', levels: own }];
        }),
      );
      return (now) => ({ made: { ...now.made, ...Object.fromEntries(made) } });
    },
  };
}
