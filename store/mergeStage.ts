import { MOMENT_TASTES } from '@/core/merge/moments/momentTastes';
import { panoramaCanvas, projectionOf } from '@/core/recipe/pictureGrid';
import { mergedFrames, mergeKey, type MergeMethod, type Project, referenceOf } from '@/core/recipe/project';
import { mergeFrames } from '@/engine/mergeFrames';
import { mergeRadiance } from '@/engine/mergeRadiance';
import { mergeSet, type OtherKind } from '@/engine/mergeSet';
import { type BenchState, type MergedState } from './bench';
import { logMade } from './log';
import { joinedLevels, preparedLevels } from './preparedFrames';
import { type Stage } from './stage';

/** Merges a set that is no bracket. */
async function mergeOther(
  state: BenchState,
  project: Project,
  kind: OtherKind,
  key: string,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const frames = mergedFrames(project);
  const at = Math.max(
    0,
    frames.findIndex((f) => f.frame.id === project.set.reference),
  );
  const inputs = frames.map(({ frame, registration }) => ({
    name: frame.file,
    levels: joinedLevels(state, project, frame.hash),
    matrix: registration.matrix,
    scale: registration.scale,
    stops: frame.stops,
    noise: frame.measures.darkNoise,
    sharpness: frame.measures.sharpness,
  }));
  const { other, region, merge } = project.set;
  const kept = project.panorama;
  const turned = kept && {
    ...kept.fit,
    rotations: frames.map(({ frame }) => kept.fit.rotations[kept.frames.indexOf(frame.id)] ?? null),
  };
  const wish = {
    projection: projectionOf(project) ?? other.projection,
    mesh: panoramaCanvas(project)?.mesh,
    stack: other.stack,
    background: other.background,
    backgroundForm: other.backgroundForm,
    focus: other.focus,
    moments: MOMENT_TASTES[other.moments],
    measures: merge,
    ...(region ? { part: region } : {}),
  };
  const options = { signal, onProgress: progress };
  const done = await mergeSet(pool, kind, inputs, at, wish, turned, options);
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

/** Merges the fitted frames by a method. */
async function mergeBy(
  state: BenchState,
  project: Project,
  method: MergeMethod,
  key: string,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const frames = mergedFrames(project);
  const reference = frames.findIndex((f) => f.frame.id === project.set.reference);
  const { width, height } = frames[reference].frame;
  const zero = frames[reference].frame.stops;
  const inputs = frames.map(({ frame, registration }) => ({
    levels: preparedLevels(state, project, frame.hash),
    image: preparedLevels(state, project, frame.hash)[0],
    matrix: registration.matrix,
    stops: frame.stops,
  }));
  const indexOf = (id: string): number => frames.findIndex((f) => f.frame.id === id);
  const choices = project.set.movers.flatMap(({ x, y, frame: id }) => {
    if (id === '') return [{ x, y }];
    return indexOf(id) >= 0 ? [{ x, y, frame: indexOf(id) }] : [];
  });
  const pixels = inputs.map(({ image, matrix, stops }) => ({ image, matrix, stops }));
  const options = { signal, onProgress: progress };
  const { set } = project;
  const result =
    method === 'fusion'
      ? await mergeFrames(pool, pixels, width, height, set.merge, { reference, choices }, options)
      : await mergeRadiance(pool, pixels, width, height, set, { reference, choices }, options);
  const levels = await pool.run((tasks) => tasks.levels(result.image), { signal });
  const placed = frames.map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: registration.matrix,
    name: frame.file,
  }));
  const levelled = inputs.map(({ levels: own, matrix, stops }) => ({
    levels: own,
    matrix,
    stops: stops - zero,
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
      return (now) => ({ merged: made, history: logMade(now.history, 'Merged', seconds, made.findings) });
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
