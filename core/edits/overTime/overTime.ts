import { coveringAt, resampled } from '../../graph/resample';
import { operator } from '../../graph/operator';
import { type At } from '../../graph/tile';
import { lightOf } from '../../graph/wanted';
import { between, oneOf, strict } from '../../recipe/schemaParts';
import { coarsestLevel } from '../coarse/coarsestLevel';
import { type EditKind } from '../editKind';
import { luminance } from '../luminance';
import { flowBlur, flowOf } from './flowBlur';

/** What moves is smoothed as by a longer exposure: over the frames of its set, or along its streaks where there is one frame only. */
export interface OverTimeSettings {
  /** the mean of all frames, what is in the middle of them, or along the streaks of this picture alone */
  readonly how: 'mean' | 'middle' | 'streaks';
  /** how far along the streaks, full-size pixels to either side */
  readonly reach: number;
}

/** frames that are looked at, at most */
export const MOST_FRAMES = 24;

/** Frames over each other: inputs are the picture, and the light of each frame; where one does not reach the others stand for it. */
const overFrames = operator<Pick<OverTimeSettings, 'how'>>({
  kind: 'overFrames',
  version: 1,
  gives: 'light',
  works: 'linear',
  run: ([picture, ...frames], { how }) => {
    const tile = lightOf(picture, 'frames over each other');
    const tiles = frames.map((f) => lightOf(f, 'frames over each other'));
    const values = new Float64Array(tiles.length);
    const planes = tile.planes.map((own, c) =>
      own.map((v, i) => {
        let count = 0;
        for (const { planes: light, alpha } of tiles) {
          if (alpha && alpha[i] < 0.5) continue;
          values[count++] = light[c][i];
        }
        if (count === 0) return v;
        return how === 'mean' ? meanOf(values, count) : middleOf(values, count);
      }),
    );
    return { ...tile, planes };
  },
});

function meanOf(values: Float64Array, count: number): number {
  let sum = 0;
  for (let k = 0; k < count; k++) sum += values[k];
  return sum / count;
}

function middleOf(values: Float64Array, count: number): number {
  const sorted = values.subarray(0, count).sort();
  return (sorted[(count - 1) >> 1] + sorted[count >> 1]) / 2;
}

/** reach, level pixels, beyond which a coarser level is taken: along streaks nothing fine is left */
const MOST_REACH = 8;
/** pixels beyond the reach that the direction is told from */
const ABOUT = 16;

const streakAt = (reach: number, longEdge: number, at: At): At => {
  const wanted = Math.ceil(Math.log2(Math.max(1, reach / MOST_REACH)));
  const level = Math.max(at.level, Math.min(wanted, coarsestLevel(longEdge)));
  return coveringAt(at, level, Math.ceil(reach / 2 ** level) + ABOUT);
};

/** One picture along its streaks. */
const alongStreaks = operator<Pick<OverTimeSettings, 'reach'> & { readonly longEdge: number }>({
  kind: 'alongStreaks',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: ({ reach, longEdge }, at, input) => (input === 0 ? at : streakAt(reach, longEdge, at)),
  run: ([input, coarse], { reach, longEdge }, at) => {
    const tile = lightOf(input, 'streaks');
    const from = streakAt(reach, longEdge, at);
    const own = reach / 2 ** from.level;
    if (own < 0.5) return tile;
    const { planes } = lightOf(coarse, 'streaks');
    const { width, height } = from.area;
    // directions are told as they are seen, not by how bright light is
    const luma = luminance(planes).map((y) => Math.sqrt(Math.max(0, y)));
    const soft = flowBlur(planes, flowOf(luma, width, height), width, height, own);
    return { ...tile, planes: soft.map((p) => resampled(p, from, at)) };
  },
});

const SAYS = {
  mean: 'the mean of all frames',
  middle: 'the middle of all frames',
  streaks: 'along its streaks',
} as const;

export const overTime: EditKind<OverTimeSettings> = {
  kind: 'overTime',
  rank: 'repair',
  plain: { how: 'mean', reach: 12 },
  schema: strict({ how: oneOf(['mean', 'middle', 'streaks']), reach: between(1, 200) }),
  changes: () => true,
  says: ({ how, reach }) => (how === 'streaks' ? `${SAYS.streaks}, ${Math.round(reach)} px` : SAYS[how]),
  operators: [overFrames, alongStreaks],
  compile: (graph, input, { how, reach }, { frames, longEdge = 1 }) => {
    const some = evenly(frames?.alike ?? [], MOST_FRAMES);
    const lights = some.flatMap((id) => frames?.lightOf(id) ?? []);
    // a single frame has no time, and frames of other exposures are no other times of it
    return how === 'streaks' || lights.length < 2
      ? { changed: graph.add('alongStreaks', { reach, longEdge }, [input, input]) }
      : { changed: graph.add('overFrames', { how }, [input, ...lights]) };
  },
};

/** So many of a list at most, evenly from it. */
const evenly = (ids: readonly string[], most: number): readonly string[] =>
  ids.length <= most
    ? ids
    : Array.from({ length: most }, (_, k) => ids[Math.round((k * (ids.length - 1)) / (most - 1))]);
