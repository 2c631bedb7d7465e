import { evenGains } from '@/core/capture/prepareImage';
import { placedFrames } from '@/core/recipe/cropOf';
import {
  fitKey,
  type Frame,
  joinedFrames,
  lensKey,
  mergeKey,
  type Project,
  referenceOf,
  viewFitKey,
} from '@/core/recipe/project';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { standIns, viewsOf } from '@/core/recipe/views';
import { fitFrame } from '@/engine/fitFrames';
import { newReferenceName } from '@/engine/referenceName';
import { fitSet } from '@/engine/fitSet';
import { throughView } from '@/engine/mergeView';
import { renderFinished } from '@/engine/renderFinished';
import { type BenchState } from './bench';
import { borderStage } from './borderStage';
import { buildScene } from './buildScene';
import { cropInForce } from './cropInForce';
import { amend } from './history';
import { layersKey } from './layersKey';
import { logMade } from './log';
import { measureKey } from './measureKey';
import { mergeStage, rivalStage } from './mergeStage';
import { proxyStage } from './proxyStage';
import { viewStage } from './viewStage';
import { evened, joinedLevels, preparedLevels } from './preparedFrames';
import { type Stage } from './stage';
import { findingsOfFit } from './stationFindings';

/** Waits until edits have been quiet for a while: what only findings need must not slow what is looked at. */
function quiet(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => clearTimeout(timer), { once: true });
  });
}

const QUIET_PREVIEW = 300;
const QUIET_PROOF = 600;

const PREVIEW_EDGE = 900;

/**
 * The first step that is missing: measures of the set, its preparation, fits, the merge, the small finished picture that findings and
 * charts are made from, its proof. Undefined when everything is made or the frames are still being decoded.
 */
export function nextStage(state: BenchState): Stage | undefined {
  const { project } = state.history;
  const reference = referenceOf(project);
  if (!reference || project.frames.some((f) => f.used && !state.decoded[f.hash])) return undefined;
  return (
    (project.set.prepare.balance === 'even' ? measureStage(state, project) : undefined) ??
    prepareStage(state, project) ??
    viewStage(state, project) ??
    fitStage(state, project) ??
    borderStage(state, project) ??
    proxyStage(state, project) ??
    mergeStage(state, project, project.set.method) ??
    finishStage(state, project) ??
    measureStage(state, project) ??
    proofStage(state, project) ??
    rivalStage(state, project)
  );
}

function measureStage({ decoded, measured }: BenchState, project: Project): Stage | undefined {
  const key = measureKey(project);
  const used = project.frames.filter((f) => f.used);
  if (measured?.key === key || used.length < 2) return undefined;
  return {
    key: `measure ${key}`,
    text: '',
    run: async (pool, signal) => {
      const levels = used.map((f) => decoded[f.hash].levels);
      const reference = Math.max(
        0,
        used.findIndex((f) => f.id === project.set.reference),
      );
      const stops = used.map((f) => f.stops);
      const made = await pool.run((tasks) => tasks.measureSet(levels, stops, reference), { signal });
      return () => ({ measured: { key, made } });
    },
  };
}

/** a balance this near to the reference's is left alone, stops */
const SAME_BALANCE = 0.03;

/** Brings every frame's white balance to the reference's, and takes back what the lens did, where the recipe asks for either. */
function prepareStage({ decoded, prepared, measured }: BenchState, project: Project): Stage | undefined {
  const used = project.frames.filter((f) => f.used);
  const { lens, balance: wished } = project.set.prepare;
  const balances = wished === 'even' && measured?.key === measureKey(project) ? measured.made.balance : [];
  if (!lens && wished !== 'even') return undefined;
  const odd = used.flatMap((frame, i) => {
    const found = balances[i];
    const balance = found && Math.max(...found.map(Math.abs)) >= SAME_BALANCE ? found : undefined;
    if (!balance && !lens) return [];
    const key = `${balance?.map((b) => b.toFixed(4)).join() ?? ''}${lensKey(project.set.prepare)}`;
    return prepared[frame.hash]?.key === key ? [] : [{ frame, balance, key }];
  });
  if (odd.length === 0) return undefined;
  return {
    key: `prepare ${odd.map(({ frame, key }) => `${frame.hash}:${key}`).join(' ')}`,
    text: `Preparing ${odd.length} ${odd.length === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      let done = 0;
      const made = await Promise.all(
        odd.map(async ({ frame, balance, key }) => {
          const image = decoded[frame.hash].levels[0];
          const gains = balance && evenGains(balance);
          const levels = await pool.run((tasks) => tasks.prepare(image, gains, lens), { signal });
          progress(++done / odd.length);
          return [frame.hash, { key, made: levels }] as const;
        }),
      );
      return (state) => ({ prepared: { ...state.prepared, ...Object.fromEntries(made) } });
    },
  };
}

function fitStage(state: BenchState, project: Project): Stage | undefined {
  const reference = referenceOf(project);
  if (!reference) return undefined;
  const { motion, region } = project.set;
  const wish = { motion, region };
  const keyOf = (frame: Frame): string => fitKey(reference, frame, project.set);
  const missing = project.frames.filter((f) => f.used && !project.fits[keyOf(f)]);
  if (missing.length === 0 && !lacksPanorama(project)) return undefined;
  if (project.set.kind !== 'bracket') return fitSetStage(state, project, reference, keyOf);
  const input = (hash: string, stops: number) => ({ image: preparedLevels(state, project, hash)[0], stops });
  return {
    key: `fit ${missing.map(keyOf).join(' ')}`,
    text: `Fitting ${missing.length} ${missing.length === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      let done = 0;
      const from = input(reference.hash, reference.stops);
      const name = newReferenceName();
      const fits = await Promise.all(
        missing.map(async (frame) => {
          const fit = await fitFrame(pool, from, input(frame.hash, frame.stops), wish, signal, name);
          progress(++done / missing.length);
          return [keyOf(frame), fit] as const;
        }),
      );
      const seconds = (performance.now() - started) / 1000;
      return (now) => {
        const history = amend(now.history, (was) => ({
          ...was,
          fits: { ...was.fits, ...Object.fromEntries(fits) },
        }));
        const found = findingsOfFit(history.project) ?? [];
        return { history: logMade(history, `Fitted ${missing.length} frames`, seconds, found) };
      };
    },
  };
}

/** Whether a panorama's turns are not known for just the frames in use. */
function lacksPanorama(project: Project): boolean {
  const { set, panorama } = project;
  if (set.kind !== 'panorama') return false;
  const used = joinedFrames(project).map((f) => f.id);
  return (
    !panorama || panorama.frames.length !== used.length || used.some((id) => !panorama.frames.includes(id))
  );
}

/** Fits a set that is no bracket: all of its frames together. */
function fitSetStage(
  state: BenchState,
  project: Project,
  reference: Frame,
  keyOf: (frame: Frame) => string,
): Stage {
  const { kind, motion, region, other } = project.set;
  const used = joinedFrames(project);
  const views = viewsOf(project);
  const inputs = used.map((f) => ({
    levels: joinedLevels(state, project, f.hash),
    facts: f.facts,
    // merged brackets are all as bright as each other
    stops: views.length > 0 ? 0 : f.stops,
  }));
  return {
    key: `fit ${kind} ${used.map(keyOf).join(' ')}`,
    text: `Fitting ${used.length} frames`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const order = used.map((_, i) => i);
      const standsFor = standIns(project);
      const at = Math.max(
        0,
        used.findIndex((f) => f.id === standsFor(reference.id)),
      );
      const fit = await fitSet(
        pool,
        kind,
        inputs,
        order,
        at,
        { motion, region, bend: other.bend },
        { signal, onProgress: progress },
      );
      const seconds = (performance.now() - started) / 1000;
      return (now) => {
        const history = amend(now.history, ({ panorama: _, ...was }) => {
          const fits = used.flatMap((frame, i) => {
            const own = fit.registrations[i];
            const others = views.find(({ head }) => head === frame)?.frames ?? [];
            return [frame, ...others.filter((f) => f !== frame)].map((f) => {
              const within =
                f === frame ? undefined : now.history.project.fits[viewFitKey(project.set, frame, f)];
              return [keyOf(f), within ? throughView(own, within) : own] as const;
            });
          });
          return {
            ...was,
            fits: { ...was.fits, ...Object.fromEntries(fits) },
            ...(fit.panorama ? { panorama: { frames: used.map((f) => f.id), fit: fit.panorama } } : {}),
          };
        });
        const found = findingsOfFit(history.project) ?? [];
        return { history: logMade(history, `Fitted ${used.length} frames`, seconds, found) };
      };
    },
  };
}

function finishStage(state: BenchState, project: Project): Stage | undefined {
  const { merged, decoded, prepared } = state;
  const crop = cropInForce(project);
  const scene = buildScene(project, decoded, merged?.scene, { prepared: evened(project, prepared) });
  const grid = pictureGrid(project);
  if (!merged || merged.key !== mergeKey(project) || !crop || !scene || !grid) return undefined;
  const key = [
    merged.key,
    layersKey(project.layers),
    JSON.stringify([project.match, project.finish, crop]),
  ].join('|');
  if (key === state.finished?.key) return undefined;
  return {
    key,
    text: '',
    run: async (pool, signal) => {
      if (state.finished) await quiet(QUIET_PREVIEW, signal);
      const level = Math.max(0, Math.ceil(Math.log2(Math.max(crop.width, crop.height) / PREVIEW_EDGE)));
      const image = await renderFinished(pool, scene, crop, 255, level, { signal });
      const frames = placedFrames(project);
      const { width, height } = grid;
      const found = await pool.run((tasks) => tasks.measureFinished(image, crop, { width, height }, frames), {
        signal,
      });
      return () => ({ finished: { key, image, ...found } });
    },
  };
}

function proofStage(state: BenchState, project: Project): Stage | undefined {
  const { finished, merged, decoded, prepared, proofed } = state;
  if (merged?.key !== mergeKey(project)) return undefined;
  const crop = cropInForce(project);
  const scene = buildScene(project, decoded, merged?.scene, { prepared: evened(project, prepared) });
  if (!finished || !crop || !scene) return undefined;
  const key = `${finished.key}${JSON.stringify(project.printRegion)}`;
  if (proofed?.key === key) return undefined;
  return {
    key: `proof ${key}`,
    text: '',
    run: async (pool, signal) => {
      if (proofed) await quiet(QUIET_PROOF, signal);
      const { image } = finished;
      const made = await pool.run((tasks) => tasks.proof(scene, image, crop, project.printRegion), {
        signal,
      });
      return () => ({ proofed: { key, made } });
    },
  };
}
