import { sharedBytes } from '@/core/raster/raster';
import { MOMENT_TASTES } from '@/core/merge/moments/momentTastes';
import { meshOf, projectionOf } from '@/core/recipe/pictureGrid';
import { mergedFrames, panoramaOf, referenceOf, setScope } from '@/core/recipe/setFrames';
import { type MergeMethod, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type Merged } from '@/core/merge/exposureFusion';
import { reducedLens } from '@/core/merge/panorama/frameOnCanvas';
import { NATURAL, type ToneBase, type ToneWish } from '@/core/merge/radiance/toneMap';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3, toLevel } from '@/core/raster/matrix3';
import { mergeFrames } from '@/engine/mergeFrames';
import { type MergeOptions } from '@/engine/mergeOptions';
import { mergeRadiance, tonePicture } from '@/engine/mergeRadiance';
import { mergeSet, type OtherKind, type SetMerged } from '@/engine/mergeSet';
import { type WorkerPool } from '@/engine/workerPool';
import { activeScope } from '../activeSet';
import { type BenchState, type MergedState } from '../benchState';
import { logMade } from '../log';
import { drawnLevels, mergedLevels, preparedLevels } from '../madePixels';
import { mergedBy } from '../variants';
import { bracketFindings, placedFrames, sameWish, toneWish } from './bracketFindings';
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
  scope: SetScope,
  kind: OtherKind,
  halved: number,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<SetMerged> {
  const frames = mergedFrames(scope);
  const { set } = scope;
  const at = Math.max(
    0,
    frames.findIndex((f) => f.frame.id === set.reference),
  );
  const inputs = frames.map(({ frame, registration }) => ({
    name: frame.file,
    levels: halvedLevels(mergedLevels(state, scope, frame), halved),
    matrix: halvedMap(registration.matrix, halved),
    scale: registration.scale,
    stops: frame.stops,
    noise: frame.measures.darkNoise,
    sharpness: frame.measures.sharpness,
  }));
  const { other, region, merge } = set;
  // a dab for a frame that is not merged waits until it is
  const dabs = (set.dabs ?? []).flatMap(({ frame: id, ...line }) => {
    const frame = frames.findIndex((f) => f.frame.id === id);
    return frame >= 0 ? [{ ...line, frame }] : [];
  });
  const kept = panoramaOf(scope);
  const turned = kept && {
    ...kept.fit,
    lens: reducedLens(kept.fit.lens, halved),
    rotations: frames.map(({ frame }) => kept.fit.rotations[kept.frames.indexOf(frame.id)] ?? null),
  };
  const k = 2 ** -halved;
  const mesh = other.border === 'warp' ? meshOf(scope) : undefined;
  const wish = {
    projection: projectionOf(scope) ?? other.projection,
    ...(mesh ? { mesh } : {}),
    stack: other.stack,
    background: other.background,
    backgroundForm: other.backgroundForm,
    focus: other.focus,
    moments: MOMENT_TASTES[other.moments],
    measures: merge,
    ...(other.seams === 'cut' || dabs.length > 0 ? { dabs } : {}),
    ...(region
      ? { part: { x: region.x * k, y: region.y * k, width: region.width * k, height: region.height * k } }
      : {}),
  };
  return mergeSet(pool, kind, inputs, at, wish, turned, options);
}

async function mergeOther(
  state: BenchState,
  scope: SetScope,
  kind: OtherKind,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const frames = mergedFrames(scope);
  const done = await mergeOtherPixels(state, scope, kind, 0, pool, { signal, onProgress: progress });
  const { image, shares } = done.merged;
  const levels = await pool.run((tasks) => tasks.levels(image), { signal });
  const noise = await pool.run((tasks) => tasks.noise(image), { signal });
  const found =
    kind === 'panorama'
      ? []
      : await pool.run((tasks) => tasks.mergeFindings(done.merged, placedFrames(frames), kind === 'stack'), {
          signal,
        });
  return {
    key: setGraph(scope).merge,
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

/** A merged bracket: its picture, or the radiance map and what its tone map needs. */
export type MergedBracket = Merged & { readonly toneBase?: ToneBase };

/** Merges a bracket by its method. @param halved how often all frames are halved before */
export async function mergeBracketPixels(
  state: BenchState,
  scope: SetScope,
  halved: number,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<MergedBracket> {
  const frames = mergedFrames(scope);
  const { set } = scope;
  const reference = frames.findIndex((f) => f.frame.id === set.reference);
  const pixels = frames.map(({ frame, registration }) => ({
    image: halvedLevels(drawnLevels(state, scope, frame), halved)[0],
    matrix: halvedMap(registration.matrix, halved),
    stops: frame.stops,
  }));
  const { width, height } = pixels[reference].image;
  const indexOf = (id: string): number => frames.findIndex((f) => f.frame.id === id);
  const k = 2 ** -halved;
  const choices = set.movers.flatMap(({ x, y, frame: id }) => {
    if (id === '') return [{ x: k * x, y: k * y }];
    return indexOf(id) >= 0 ? [{ x: k * x, y: k * y, frame: indexOf(id) }] : [];
  });
  const movers = { reference, choices };
  return set.method === 'fusion'
    ? mergeFrames(pool, pixels, width, height, set.merge, movers, options)
    : mergeRadiance(pool, pixels, width, height, set.response, movers, options);
}

/** Merges the fitted frames of a bracket. */
async function mergeBracket(
  state: BenchState,
  scope: SetScope,
  ...[pool, signal, progress]: Parameters<Stage['run']>
): Promise<MergedState> {
  const result = await mergeBracketPixels(state, scope, 0, pool, { signal, onProgress: progress });
  const { image, shares, movers, responseOff, toneBase } = result;
  const levels = await pool.run((tasks) => tasks.levels(image), { signal });
  const toned = toneBase && toneWish(scope);
  const tonedBy = async (wish: ToneWish) =>
    toneBase ? await tonePicture(pool, image, toneBase, wish, { signal }) : image;
  const seen = toned ? await tonedBy(toned) : image;
  const seenLevels = toned ? await pool.run((tasks) => tasks.levels(seen), { signal }) : levels;
  const bracket = { image: seen, levels: seenLevels, shares, movers, responseOff };
  // noise belongs to the merge: it must not depend on what the tone map was when it was made
  const usual = toned && !sameWish(toned, NATURAL) ? await tonedBy(NATURAL) : seen;
  const [findings, noise] = await Promise.all([
    bracketFindings(state, scope, bracket, pool, signal),
    pool.run((tasks) => tasks.noise(usual), { signal }),
  ]);
  const frames = mergedFrames(scope).map((f) => f.frame.id);
  return {
    key: setGraph(scope).merge,
    scene: { levels, frames, shares, noise },
    findings,
    movers: movers?.list ?? [],
    ...(toneBase ? { toneBase, toned, responseOff } : {}),
  };
}

/** Whether a set is one frame that is taken as it is: a photograph that others are laid over. */
export function isOneFrame(scope: SetScope): boolean {
  const { kind, method } = scope.set;
  return kind === 'bracket' && method === 'fusion' && mergedFrames(scope).length === 1;
}

/** The one frame as it is prepared. */
async function oneFrame(
  state: BenchState,
  scope: SetScope,
  ...[pool, signal]: Parameters<Stage['run']>
): Promise<MergedState> {
  const [{ frame }] = mergedFrames(scope);
  const levels = preparedLevels(state, scope, frame);
  const [image] = levels;
  const noise = await pool.run((tasks) => tasks.noise(image), { signal });
  const half = Math.ceil(image.width / 2) * Math.ceil(image.height / 2);
  return {
    key: setGraph(scope).merge,
    scene: { levels, frames: [frame.id], shares: [new Uint8Array(sharedBytes(half)).fill(255)], noise },
    findings: [],
    movers: [],
  };
}

const merge = (
  state: BenchState,
  scope: SetScope,
  ...rest: Parameters<Stage['run']>
): Promise<MergedState> =>
  isOneFrame(scope)
    ? oneFrame(state, scope, ...rest)
    : scope.set.kind === 'bracket'
      ? mergeBracket(state, scope, ...rest)
      : mergeOther(state, scope, scope.set.kind, ...rest);

export function mergeStage(state: BenchState, scope: SetScope): Stage | undefined {
  const key = setGraph(scope).merge;
  const { id } = scope.set;
  const count = mergedFrames(scope).length;
  const merged = state.merged[id];
  if (!referenceOf(scope) || count === 0 || key === merged?.key) return undefined;
  // what was made to be compared may be what is wanted now
  if (key === state.rival?.key) {
    const { rival } = state;
    return {
      key: `swap ${key}`,
      text: '',
      run: () =>
        Promise.resolve((now) => ({ merged: { ...now.merged, [id]: rival }, rival: now.merged[id] })),
    };
  }
  return {
    key: `merge ${key}`,
    text: isOneFrame(scope) ? '' : `Merging ${count} ${count === 1 ? 'frame' : 'frames'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const made = await merge(state, scope, pool, signal, progress);
      const seconds = (performance.now() - started) / 1000;
      return (now) => {
        const { [id]: _, ...proxies } = now.proxies;
        return {
          merged: { ...now.merged, [id]: made },
          proxies,
          history: logMade(now.history, 'Merged', seconds, made.findings),
        };
      };
    },
  };
}

/** The set that is worked on, merged by the other method; undefined for one that has no other. */
export function rivalScope(state: Pick<BenchState, 'history' | 'session'>): SetScope | undefined {
  const scope = activeScope(state);
  if (scope?.set.kind !== 'bracket') return undefined;
  const other: MergeMethod = scope.set.method === 'fusion' ? 'radiance' : 'fusion';
  return setScope(mergedBy(state.history.project, scope.set.id, other), scope.set.id);
}

/** The other method's merge, while both are shown beside each other. */
export function rivalStage(state: BenchState): Stage | undefined {
  if (state.session.station !== 'merge' || state.session.look !== 'methods') return undefined;
  const scope = rivalScope(state);
  if (!scope || mergedFrames(scope).length === 0) return undefined;
  const key = setGraph(scope).merge;
  if (key === state.rival?.key) return undefined;
  return {
    key: `rival ${key}`,
    text: 'Merging the other way',
    run: async (pool, signal, progress) => {
      const rival = await merge(state, scope, pool, signal, progress);
      return () => ({ rival });
    },
  };
}
