import { joinedFrames, referenceOf } from '@/core/recipe/setFrames';
import { type MadeFact, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { standIns, viewsOf } from '@/core/recipe/views';
import { type Registration } from '@/core/register/registration';
import { fitBracket } from '@/engine/fitBracket';
import { fitFrame } from '@/engine/fitFrames';
import { fitSet } from '@/engine/fitSet';
import { throughView } from '@/engine/mergeView';
import { newReferenceName } from '@/engine/referenceName';
import { type BenchState } from '../benchState';
import { logMade } from '../log';
import { joinedLevels, preparedLevels } from '../madePixels';
import { findingsOfFit } from '../stationFindings';
import { keepMade, scopeIn } from './keepMade';
import { type Stage } from './stage';

/** Fits the frames of a bracket to its reference, each by itself, and those for which that does not do by way of others. */
export function fitStage(state: BenchState, scope: SetScope): Stage | undefined {
  const reference = referenceOf(scope);
  const { hash: together, pairs } = setGraph(scope).fits;
  if (!reference || !pairs || scope.made[together]) return undefined;
  const { motion, region } = scope.set;
  const used = scope.frames.filter((f) => f.used);
  const known = used.map((f): Registration | undefined => {
    const made = scope.made[pairs.get(f.id) ?? ''];
    return made?.of === 'fit' ? made.fit : undefined;
  });
  const lacking = known.filter((fit) => !fit).length;
  const frames = used.map((frame) => ({
    image: preparedLevels(state, scope, frame)[0],
    stops: frame.stops,
  }));
  const at = used.indexOf(reference);
  const count = lacking || used.length;
  return {
    key: `fit ${together}`,
    text: `Fitting ${count} ${count === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      let done = 0;
      const name = newReferenceName();
      const wish = { motion, region };
      const fits = await Promise.all(
        frames.map(async (frame, i) => {
          const fit = known[i] ?? (await fitFrame(pool, frames[at], frame, wish, signal, name));
          if (!known[i]) progress(++done / lacking);
          return fit;
        }),
      );
      const joined = await fitBracket(pool, { frames, reference: at, fits }, wish, { signal });
      const seconds = (performance.now() - started) / 1000;
      const made: [string, MadeFact][] = [
        ...used.map((f, i): [string, MadeFact] => [pairs.get(f.id) ?? '', { of: 'fit', fit: fits[i] }]),
        [together, { of: 'fits', fits: Object.fromEntries(used.map((f, i) => [f.id, joined[i]])) }],
      ];
      return (now) => {
        const history = keepMade(now.history, made);
        const found = findingsOfFit(scopeIn(history, scope)) ?? [];
        return { history: logMade(history, `Fitted ${count} frames`, seconds, found) };
      };
    },
  };
}

/** Fits a set that is no bracket: all of its frames together. */
export function fitSetStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { fits, views: viewNodes } = setGraph(scope);
  const reference = referenceOf(scope);
  if (!reference || fits.pairs || scope.made[fits.hash]) return undefined;
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
