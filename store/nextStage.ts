import { finishFindings } from '@/core/finish/finishFindings';
import { cropOf } from '@/core/recipe/cropOf';
import { fitKey, type Frame, mergedFrames, mergeKey, type Project, referenceOf } from '@/core/recipe/project';
import { fitFrame } from '@/engine/fitFrames';
import { mergeFrames } from '@/engine/mergeFrames';
import { renderFinished } from '@/engine/renderFinished';
import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState } from './bench';
import { buildScene } from './buildScene';
import { amend } from './history';

/** A step that the recipe asks for and that is not made yet. */
export interface Stage {
  /** everything it depends on */
  readonly key: string;
  /** what the progress line says; empty for work too short to mention */
  readonly text: string;
  readonly run: (
    pool: WorkerPool,
    signal: AbortSignal,
    progress: (done: number) => void,
  ) => Promise<(state: BenchState) => Partial<BenchState>>;
}

const PREVIEW_EDGE = 900;

/**
 * The first step that is missing: fits, then the merge, then the small finished picture that findings and charts are made from.
 * Undefined when everything is made or the frames are still being decoded.
 */
export function nextStage(state: BenchState): Stage | undefined {
  const { project } = state.history;
  const reference = referenceOf(project);
  if (!reference || project.frames.some((f) => f.used && !state.decoded[f.hash])) return undefined;
  return fitStage(state, project) ?? mergeStage(state, project) ?? finishStage(state, project);
}

function fitStage({ decoded }: BenchState, project: Project): Stage | undefined {
  const reference = referenceOf(project);
  if (!reference) return undefined;
  const { motion, region } = project.set;
  const keyOf = (frame: Frame): string => fitKey(reference, frame, project.set);
  const missing = project.frames.filter((f) => f.used && !project.fits[keyOf(f)]);
  if (missing.length === 0) return undefined;
  const input = (hash: string, stops: number) => ({ image: decoded[hash].levels[0], stops });
  return {
    key: `fit ${missing.map(keyOf).join(' ')}`,
    text: `Fitting ${missing.length} ${missing.length === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      let done = 0;
      const from = input(reference.hash, reference.stops);
      const fits = await Promise.all(
        missing.map(async (frame) => {
          const fit = await fitFrame(pool, from, input(frame.hash, frame.stops), { motion, region }, signal);
          progress(++done / missing.length);
          return [keyOf(frame), fit] as const;
        }),
      );
      return (state) => ({
        history: amend(state.history, (draft) => {
          draft.fits = { ...draft.fits, ...(Object.fromEntries(fits) as typeof draft.fits) };
        }),
      });
    },
  };
}

function mergeStage({ decoded, merged }: BenchState, project: Project): Stage | undefined {
  const key = mergeKey(project);
  const reference = referenceOf(project);
  if (!key || !reference || key === merged?.key) return undefined;
  const frames = mergedFrames(project);
  return {
    key: `merge ${key}`,
    text: `Merging ${frames.length} frames`,
    run: async (pool, signal, progress) => {
      const { width, height } = reference;
      const inputs = frames.map(({ frame, registration }) => ({
        image: decoded[frame.hash].levels[0],
        matrix: registration.matrix,
        stops: frame.stops,
      }));
      const indexOf = (id: string): number => frames.findIndex((f) => f.frame.id === id);
      const choices = project.set.movers.flatMap(({ x, y, frame: id }) => {
        if (id === '') return [{ x, y }];
        return indexOf(id) >= 0 ? [{ x, y, frame: indexOf(id) }] : [];
      });
      const movers = { reference: indexOf(reference.id), choices };
      const result = await mergeFrames(pool, inputs, width, height, project.set.merge, movers, {
        signal,
        onProgress: progress,
      });
      const levels = await pool.run((tasks) => tasks.levels(result.image), { signal });
      const placed = frames.map(({ frame, registration }) => ({
        width: frame.width,
        height: frame.height,
        matrix: registration.matrix,
        name: frame.file,
      }));
      const findings = await pool.run((tasks) => tasks.mergeFindings(result, placed), { signal });
      const scene = { levels, frames: frames.map((f) => f.frame.id), shares: result.shares };
      return () => ({ merged: { key, scene, findings, movers: result.movers?.list ?? [] } });
    },
  };
}

function finishStage(state: BenchState, project: Project): Stage | undefined {
  const { merged, decoded } = state;
  const crop = cropOf(project);
  const scene = buildScene(project, decoded, merged?.scene);
  const reference = referenceOf(project);
  if (!merged || !crop || !scene || !reference) return undefined;
  const key = JSON.stringify([merged.key, project.layers, project.finish, crop]);
  if (key === state.finished?.key) return undefined;
  return {
    key,
    text: '',
    run: async (pool, signal) => {
      const level = Math.max(0, Math.ceil(Math.log2(Math.max(crop.width, crop.height) / PREVIEW_EDGE)));
      const image = await renderFinished(pool, scene, crop, 255, level, { signal });
      const frames = mergedFrames(project).map(({ frame, registration }) => ({
        width: frame.width,
        height: frame.height,
        matrix: registration.matrix,
      }));
      return () => ({ finished: { key, image, findings: finishFindings(image, crop, reference, frames) } });
    },
  };
}
