import { type Frame, joinedFrames, type MadeFact, referenceOf, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { standIns, viewsOf } from '@/core/recipe/views';
import { type Registration } from '@/core/register/registration';
import { fitFrame } from '@/engine/fitFrames';
import { fitSet } from '@/engine/fitSet';
import { throughView } from '@/engine/mergeView';
import { newReferenceName } from '@/engine/referenceName';
import { type BenchState } from '../bench';
import { logMade } from '../log';
import { joinedLevels, preparedLevels } from '../madePixels';
import { findingsOfFit } from '../stationFindings';
import { keepMade, scopeIn } from './keepMade';
import { type Stage } from './stage';

/** Fits the frames of a bracket to its reference, each by itself. */
export function fitStage(state: BenchState, scope: SetScope): Stage | undefined {
  const reference = referenceOf(scope);
  const { fits } = setGraph(scope);
  if (!reference || fits.kind !== 'each') return undefined;
  const { motion, region } = scope.set;
  const lacking = scope.frames.flatMap((frame) => {
    const hash = fits.hashes.get(frame.id);
    return hash && !scope.made[hash] ? [{ frame, hash }] : [];
  });
  if (lacking.length === 0) return undefined;
  const input = (frame: Frame) => ({
    image: preparedLevels(state, scope, frame)[0],
    stops: frame.stops,
  });
  return {
    key: `fit ${lacking.map(({ hash }) => hash).join(' ')}`,
    text: `Fitting ${lacking.length} ${lacking.length === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      let done = 0;
      const from = input(reference);
      const name = newReferenceName();
      const made = await Promise.all(
        lacking.map(async ({ frame, hash }): Promise<[string, MadeFact]> => {
          const fit = await fitFrame(pool, from, input(frame), { motion, region }, signal, name);
          progress(++done / lacking.length);
          return [hash, { of: 'fit', fit }];
        }),
      );
      const seconds = (performance.now() - started) / 1000;
      return (now) => {
        const history = keepMade(now.history, made);
        const found = findingsOfFit(scopeIn(history, scope)) ?? [];
        return { history: logMade(history, `Fitted ${lacking.length} frames`, seconds, found) };
      };
    },
  };
}

/** Fits a set that is no bracket: all of its frames together. */
export function fitSetStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { fits, views: viewNodes } = setGraph(scope);
  const reference = referenceOf(scope);
  if (!reference || fits.kind !== 'together' || scope.made[fits.hash]) return undefined;
  const { kind, motion, region, other } = scope.set;
  const used = joinedFrames(scope);
  const views = viewsOf(scope);
  const inputs = used.map((f) => ({
    levels: joinedLevels(state, scope, f),
    facts: f.facts,
    // merged brackets are all as bright as each other
    stops: views.length > 0 ? 0 : f.stops,
  }));
  return {
    key: `fit ${fits.hash}`,
    text: `Fitting ${used.length} frames`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const standsFor = standIns(scope);
      const at = Math.max(
        0,
        used.findIndex((f) => f.id === standsFor(reference.id)),
      );
      const fit = await fitSet(
        pool,
        kind,
        inputs,
        used.map((_, i) => i),
        at,
        { motion, region, bend: other.bend },
        { signal, onProgress: progress },
      );
      const within = (head: string, frame: string): Registration | undefined => {
        const made = scope.made[viewNodes.get(head)?.fits.get(frame) ?? ''];
        return made?.of === 'fit' ? made.fit : undefined;
      };
      const own = used.flatMap((frame, i): [string, Registration][] => {
        const joined = fit.registrations[i];
        const others = views.find(({ head }) => head === frame)?.frames ?? [];
        return [
          [frame.id, joined],
          ...others
            .filter((f) => f !== frame)
            .map((f): [string, Registration] => {
              const inner = within(frame.id, f.id);
              return [f.id, inner ? throughView(joined, inner) : joined];
            }),
        ];
      });
      const seconds = (performance.now() - started) / 1000;
      const made: MadeFact = {
        of: 'fits',
        fits: Object.fromEntries(own),
        ...(fit.panorama ? { panorama: { frames: used.map((f) => f.id), fit: fit.panorama } } : {}),
      };
      return (now) => {
        const history = keepMade(now.history, [[fits.hash, made]]);
        const found = findingsOfFit(scopeIn(history, scope)) ?? [];
        return { history: logMade(history, `Fitted ${used.length} frames`, seconds, found) };
      };
    },
  };
}
