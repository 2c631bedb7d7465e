import { type Value } from '@/core/graph/tile';
import { isAway, levelAtHand } from '@/core/raster/awayPixels';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY, toLevel } from '@/core/raster/matrix3';
import { bendOf, planeFitOf, referenceOf } from '@/core/recipe/setFrames';
import { type Frame, type MadeFact, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { isBetter, isConvincing, type LocalBend } from '@/core/register/parallax/localBend';
import { withWhole } from '@/engine/wholeFrames';
import { type BenchState } from '../benchState';
import { logMade } from '../log';
import { pictureMade, preparedLevels } from '../madePixels';
import { findingsOfFit } from '../stationFindings';
import { keepMade, scopeIn } from './keepMade';
import { quiet, QUIET_PROOF } from './quiet';
import { type Stage } from './stage';

/** parts that lie elsewhere are looked for on levels of this long edge at most, pixels */
const APART_FROM = 1200;

const count = (frames: number): string => `${frames} ${frames === 1 ? 'frame' : 'frames'}`;

/** Measures how frames must be bent so that near and far lie on the reference at once. */
export function measureBendStage(state: BenchState, scope: SetScope): Stage | undefined {
  const reference = referenceOf(scope);
  const { bends } = setGraph(scope);
  const lacking = scope.frames.flatMap((frame) => {
    const node = bends.get(frame.id);
    return node === undefined || scope.made[node] ? [] : [{ frame, node, fit: planeFitOf(scope, frame) }];
  });
  if (!reference || lacking.length === 0) return undefined;
  return {
    key: `bends ${lacking.map(({ node }) => node).join(' ')}`,
    text: `Measuring near and far in ${count(lacking.length)}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const held = preparedLevels(state, scope, reference)[0];
      let done = 0;
      const made = await Promise.all(
        lacking.map(async ({ frame, node, fit }): Promise<[string, MadeFact]> => {
          // what no plane lays may be laid by a bend, from where it is
          const isAlike = frame.width === reference.width && frame.height === reference.height;
          if (!fit?.fitted && !isAlike) return [node, { of: 'bend' }];
          const matrix = fit?.fitted ? fit.matrix : IDENTITY;
          const stops = frame.stops - reference.stops;
          const measured = ([on, own]: readonly EncodedImage[]): Promise<LocalBend> =>
            pool.run((tasks) => tasks.measureBend(on, own, matrix, stops), { signal });
          const both = [held, preparedLevels(state, scope, frame)[0]];
          const bend = await withWhole(pool, both, measured, signal);
          progress(++done / lacking.length);
          const isWorth = fit?.fitted ? isBetter : isConvincing;
          return [node, { of: 'bend', ...(isWorth(bend) ? { bend } : {}) }];
        }),
      );
      const seconds = (performance.now() - started) / 1000;
      return (now) => {
        const history = keepMade(now.history, made);
        const found = findingsOfFit(scopeIn(history, scope)) ?? [];
        return {
          history: logMade(history, `Measured near and far in ${count(lacking.length)}`, seconds, found),
        };
      };
    },
  };
}

/** Looks whether parts of fitted frames lie elsewhere than their fit says: only findings ask for it. */
export function apartStage(state: BenchState, scope: SetScope): Stage | undefined {
  const reference = referenceOf(scope);
  const { aparts } = setGraph(scope);
  const lacking = scope.frames.flatMap((frame) => {
    const node = aparts.get(frame.id);
    const fit = planeFitOf(scope, frame);
    return node === undefined || scope.made[node] || !fit?.fitted ? [] : [{ frame, node, fit }];
  });
  if (!reference || lacking.length === 0) return undefined;
  return {
    key: `apart ${lacking.map(({ node }) => node).join(' ')}`,
    text: '',
    run: async (pool, signal) => {
      await quiet(QUIET_PROOF, signal);
      const small = (frame: Frame): EncodedImage => {
        const levels = preparedLevels(state, scope, frame);
        const level = levels.findIndex((l) => Math.max(l.width, l.height) <= APART_FROM);
        return levels[levelAtHand(levels, Math.max(0, level))];
      };
      const made = await Promise.all(
        lacking.map(async ({ frame, node, fit }): Promise<[string, MadeFact]> => {
          const [on, own] = [small(reference), small(frame)];
          const halvings = (whole: Frame, seen: EncodedImage): number =>
            Math.round(Math.log2(whole.width / seen.width));
          const level = halvings(frame, own);
          // frames of other sizes may be at hand at other levels
          if (halvings(reference, on) !== level) return [node, { of: 'apart' }];
          const matrix = level > 0 ? toLevel(fit.matrix, level) : fit.matrix;
          const stops = frame.stops - reference.stops;
          const apart = await pool.run((tasks) => tasks.apartOf(on, own, matrix, stops), { signal });
          const k = 2 ** level;
          const whole = apart && { px: k * apart.px, share: apart.share, x: k * apart.x, y: k * apart.y };
          return [node, { of: 'apart', ...(whole ? { apart: whole } : {}) }];
        }),
      );
      return (now) => ({ history: keepMade(now.history, made) });
    },
  };
}

/**
 * Draws bent frames anew that were forgotten while the set was not bent, and whose merge is still there: regions and repairs look at them.
 * Nothing where a frame is not at hand yet.
 */
export function bendAgainStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { bends, graph, prepared } = setGraph(scope);
  const isThere = (frame: Frame): boolean => {
    const node = prepared.get(frame.id) ?? '';
    const isPrepared = graph.get(node)?.kind !== 'prepare' || pictureMade(state, node) !== undefined;
    return state.decoded[frame.hash] !== undefined && isPrepared;
  };
  return bends.size > 0 && scope.frames.every(isThere) ? bendFrameStage(state, scope) : undefined;
}

/** Draws the frames that are bent. */
export function bendFrameStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { bends, drawn } = setGraph(scope);
  const lacking = scope.frames.flatMap((frame) => {
    const measured = scope.made[bends.get(frame.id) ?? ''] !== undefined;
    const node = measured ? drawn.get(frame.id) : undefined;
    return node === undefined || state.made[node] ? [] : [{ frame, node, bend: bendOf(scope, frame) }];
  });
  if (lacking.length === 0) return undefined;
  return {
    key: `bend ${lacking.map(({ node }) => node).join(' ')}`,
    text: `Bending ${count(lacking.length)}`,
    run: async (pool, signal, progress) => {
      let done = 0;
      const made = await Promise.all(
        lacking.map(async ({ frame, node, bend }): Promise<[string, Value]> => {
          const levels = preparedLevels(state, scope, frame);
          if (!bend) return [node, { is: 'picture', levels }];
          // of a frame that is away what is bent is away too
          const kept = isAway(levels) ? levels[levelAtHand(levels, 0)] : undefined;
          const away = kept && { name: node, staying: kept.width * kept.height };
          const bent = ([image]: readonly EncodedImage[]): Promise<readonly EncodedImage[]> =>
            pool.run((tasks) => tasks.bend(image, bend, away), { signal });
          const own = await withWhole(pool, [levels[0]], bent, signal);
          progress(++done / lacking.length);
          return [node, { is: 'picture', levels: own }];
        }),
      );
      return (now) => ({ made: { ...now.made, ...Object.fromEntries(made) } });
    },
  };
}
