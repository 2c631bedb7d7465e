import { evenGains } from '@/core/capture/prepareImage';
import { type Value } from '@/core/graph/tile';
import { type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type BenchState } from '../bench';
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

/** Brings every frame's white balance to the reference's, and takes back what the lens did, where the recipe asks for either. */
export function prepareStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { prepared, decoded: shot } = setGraph(scope);
  const { lens, balance: wished } = scope.set.prepare;
  const used = scope.frames.filter((f) => f.used);
  const balances = wished === 'even' ? (measuresOf(state, scope)?.balance ?? []) : [];
  const lacking = scope.frames.flatMap((frame) => {
    const node = prepared.get(frame.id);
    if (node === undefined || node === shot.get(frame.id) || state.made[node]) return [];
    // a frame that is left out may still be decoded, or be gone: the others do not wait for it
    if (!state.decoded[frame.hash]) return [];
    const found = balances[used.indexOf(frame)];
    const balance = found && Math.max(...found.map(Math.abs)) >= SAME_BALANCE ? found : undefined;
    return [{ frame, node, balance }];
  });
  if (lacking.length === 0) return undefined;
  const changed = lacking.filter(({ balance }) => balance || lens).length;
  return {
    key: `prepare ${lacking.map(({ node }) => node).join(' ')}`,
    text: changed > 0 ? `Preparing ${changed} ${changed === 1 ? 'frame' : 'frames'}` : '',
    run: async (pool, signal, progress) => {
      let done = 0;
      const made = await Promise.all(
        lacking.map(async ({ frame, node, balance }): Promise<[string, Value]> => {
          const { levels } = state.decoded[frame.hash];
          // a frame that needs nothing is used as it is
          const own =
            balance || lens
              ? await pool.run((tasks) => tasks.prepare(levels[0], balance && evenGains(balance), lens), {
                  signal,
                })
              : levels;
          progress(++done / lacking.length);
          return [node, { is: 'picture', levels: own }];
        }),
      );
      return (now) => ({ made: { ...now.made, ...Object.fromEntries(made) } });
    },
  };
}
