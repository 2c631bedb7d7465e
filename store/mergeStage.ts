import { MOMENT_TASTES } from '@/core/merge/moments/momentTastes';
import { panoramaCanvas, projectionOf } from '@/core/recipe/pictureGrid';
import { mergedFrames, mergeKey, type MergeMethod, type Project, referenceOf } from '@/core/recipe/project';
import { type Merged } from '@/core/merge/exposureFusion';
import { reducedLens } from '@/core/merge/panorama/frameOnCanvas';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3, toLevel } from '@/core/raster/matrix3';
import { mergeFrames, type MergeOptions } from '@/engine/mergeFrames';
import { mergeRadiance } from '@/engine/mergeRadiance';
import { mergeSet, type OtherKind, type SetMerged } from '@/engine/mergeSet';
import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type MergedState } from './bench';
import { logMade } from './log';
import { joinedLevels, preparedLevels } from './preparedFrames';
import { type Stage } from './stage';

/** a frame's picture and its halvings from a level on; of a small frame what there is */
const halvedLevels = (levels: readonly EncodedImage[], halved: number): readonly EncodedImage[] =>
  levels.slice(Math.min(halved, levels.length - 1));

/** A full-size map between pictures that were halved so often. */
const halvedMap = (matrix: Matrix3, halved: number): Matrix3 =>
  halved > 0 ? toLevel(matrix, halved) : matrix;

/** Merges a set that is no bracket. @param halved how often all frames are halved before */
export function mergeOtherPixels(
  state: BenchState,
  project: Project,
  kind: OtherKind,
  halved: number,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<SetMerged> {
  const frames = mergedFrames(project);
  const at = Math.max(
    0,
    frames.findIndex((f) => f.frame.id === project.set.reference),
  );
  const inputs = frames.map(({ frame, registration }) => ({
    name: frame.file,
    levels: halvedLevels(joinedLevels(state, project, frame.hash), halved),
    matrix: halvedMap(registration.matrix, halved),
    scale: registration.scale,
    stops: frame.stops,
    noise: frame.measures.darkNoise,
    sharpness: frame.measures.sharpness,
  }));
  const { other, region, merge } = project.set;
  const kept = project.panorama;
  const turned = kept && {
    ...kept.fit,
    lens: reducedLens(kept.fit.lens, halved),
    rotations: frames.map(({ frame }) => kept.fit.rotations[kept.frames.indexOf(frame.id)] ?? null),
  };
  const k = 2 ** -halved;
  const wish = {
    projection: projectionOf(project) ?? other.projection,
    mesh: panoramaCanvas(project)?.mesh,
    stack: other.stack,
    background: other.background,
    backgroundForm: other.backgroundForm,
    focus: other.focus,
    moments: MOMENT_TASTES[other.moments],
    measures: merge,
    ...(region
      ? { part: { x: region.x * k, y: region.y * k, width: region.width * k, height: region.height * k } }
      : {}),
  };
  return mergeSet(pool, kind, inputs, at, wish, turned, options);
}

async function mergeOther(
  state: BenchState,
  project: Project,
  kind: OtherKind,
  key: string,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const frames = mergedFrames(project);
  const done = await mergeOtherPixels(state, project, kind, 0, pool, { signal, onProgress: progress });
  const { image, shares } = done.merged;
  const levels = await pool.run((tasks) => tasks.levels(image), { signal });
  const noise = await pool.run((tasks) => tasks.noise(image), { signal });
  const placed = frames.map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: registration.matrix,
    name: frame.file,
  }));
  const found =
    kind === 'panorama'
      ? []
      : await pool.run((tasks) => tasks.mergeFindings(done.merged, placed, kind === 'stack'), { signal });
  return {
    key,
    scene: {
      levels,
      frames: frames.map((f) => f.frame.id),
      shares,
      noise,
      ...(done.depth ? { depth: done.depth } : {}),
    },
    findings: [...done.findings, ...found],
    movers: [],
    ...(done.regions ? { regions: done.regions } : {}),
    ...(done.school ? { school: done.school } : {}),
  };
}

/** Merges a bracket by a method. @param halved how often all frames are halved before */
export function mergeBracketPixels(
  state: BenchState,
  project: Project,
  method: MergeMethod,
  halved: number,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<Merged> {
  const frames = mergedFrames(project);
  const reference = frames.findIndex((f) => f.frame.id === project.set.reference);
  const pixels = frames.map(({ frame, registration }) => ({
    image: halvedLevels(preparedLevels(state, project, frame.hash), halved)[0],
    matrix: halvedMap(registration.matrix, halved),
    stops: frame.stops,
  }));
  const { width, height } = pixels[reference].image;
  const indexOf = (id: string): number => frames.findIndex((f) => f.frame.id === id);
  const k = 2 ** -halved;
  const choices = project.set.movers.flatMap(({ x, y, frame: id }) => {
    if (id === '') return [{ x: k * x, y: k * y }];
    return indexOf(id) >= 0 ? [{ x: k * x, y: k * y, frame: indexOf(id) }] : [];
  });
  const { set } = project;
  return method === 'fusion'
    ? mergeFrames(pool, pixels, width, height, set.merge, { reference, choices }, options)
    : mergeRadiance(pool, pixels, width, height, set, { reference, choices }, options);
}

/** Merges the fitted frames by a method. */
async function mergeBy(
  state: BenchState,
  project: Project,
  method: MergeMethod,
  key: string,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const frames = mergedFrames(project);
  const zero = referenceOf(project)?.stops ?? 0;
  const result = await mergeBracketPixels(state, project, method, 0, pool, { signal, onProgress: progress });
  const levels = await pool.run((tasks) => tasks.levels(result.image), { signal });
  const placed = frames.map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: registration.matrix,
    name: frame.file,
  }));
  const levelled = frames.map(({ frame, registration }) => ({
    levels: preparedLevels(state, project, frame.hash),
    matrix: registration.matrix,
    stops: frame.stops - zero,
  }));
  const { image, shares, movers, responseOff } = result;
  const moved = movers?.list.map((m) => m.box) ?? [];
  const [findings, edges, noise] = await Promise.all([
    pool.run((tasks) => tasks.mergeFindings({ image, shares, movers, responseOff }, placed), { signal }),
    pool.run((tasks) => tasks.edgeFindings(levels, levelled, moved), { signal }),
    pool.run((tasks) => tasks.noise(image), { signal }),
  ]);
  return {
    key,
    scene: { levels, frames: frames.map((f) => f.frame.id), shares, noise },
    findings: [...findings, ...edges],
    movers: movers?.list ?? [],
    ...(result.radiance ? { radiance: result.radiance } : {}),
  };
}

export function mergeStage(state: BenchState, project: Project, method: MergeMethod): Stage | undefined {
  const key = mergeKey(project, method);
  if (!key || !referenceOf(project) || mergedFrames(project).length === 0 || key === state.merged?.key)
    return undefined;
  // what was made to be compared may be what is wanted now
  if (key === state.rival?.key) {
    const { rival, merged } = state;
    return {
      key: `swap ${key}`,
      text: '',
      run: () => Promise.resolve(() => ({ merged: rival, rival: merged })),
    };
  }
  return {
    key: `merge ${key}`,
    text: `Merging ${mergedFrames(project).length} frames`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const { kind } = project.set;
      const made =
        kind === 'bracket'
          ? await mergeBy(state, project, method, key, pool, signal, progress)
          : await mergeOther(state, project, kind, key, pool, signal, progress);
      const seconds = (performance.now() - started) / 1000;
      return (now) => ({
        merged: made,
        proxy: undefined,
        history: logMade(now.history, 'Merged', seconds, made.findings),
      });
    },
  };
}

/** The other method's merge, while both are shown beside each other. */
export function rivalStage(state: BenchState, project: Project): Stage | undefined {
  if (state.session.station !== 'merge' || state.session.look !== 'methods') return undefined;
  if (project.set.kind !== 'bracket') return undefined;
  const method = project.set.method === 'fusion' ? 'radiance' : 'fusion';
  const key = mergeKey(project, method);
  if (!key || key === state.rival?.key || mergedFrames(project).length === 0) return undefined;
  return {
    key: `rival ${key}`,
    text: 'Merging the other way',
    run: async (pool, signal, progress) => {
      const rival = await mergeBy(state, project, method, key, pool, signal, progress);
      return () => ({ rival });
    },
  };
}
