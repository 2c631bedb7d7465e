import { type SetKind } from '@/core/capture/setKind';
import { type Merged } from '@/core/merge/exposureFusion';
import { energyLevel, onHalfGrid } from '@/core/merge/focus/coarserEnergy';
import { chooseSchool, type FocusSchool, type SchoolChoice } from '@/core/merge/focus/chooseSchool';
import { focusFindings } from '@/core/merge/focus/focusFindings';
import { mapOf } from '@/core/merge/focus/focusMap';
import { cellBands, focusBuffers } from '@/core/merge/focus/focusPlan';
import { planFusion } from '@/core/merge/fusionPlan';
import { type FusionMeasures, PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { EVENING, type MomentRegion, type MomentWishes } from '@/core/merge/moments/chooseMoments';
import { chooseProjection, placeCanvas } from '@/core/merge/panorama/canvas';
import { turnedRows } from '@/core/merge/panorama/frameOnCanvas';
import { panoramaTiles } from '@/core/merge/panorama/planPanorama';
import { seamPlaces } from '@/core/merge/panorama/seamStep';
import { tileArea } from '@/core/merge/panorama/tileArea';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type RectangleMesh } from '@/core/merge/rectangle/rectangleMesh';
import { type BackgroundForm } from '@/core/merge/stack/skyBackground';
import { type IndexedDab } from '@/core/merge/seams/frameDab';
import { type StackBuffers, type StackMethod } from '@/core/merge/stack/stackMethod';
import { type Finding, judge } from '@/core/proof/finding';
import { Problem } from '@/core/proof/problem';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Rectangle, sharedBytes, sharedFloats } from '@/core/raster/raster';
import { type ReducedGrid } from '@/core/raster/reducedGrid';
import { type PanoramaFit } from '@/core/register/rotation/fitPanorama';
import { halfHeight, halfRows } from './inBands';
import { inStrips, reachedRows } from './inStrips';
import { BY_DETAIL, mergeChosen } from './mergeChosen';
import { type MergeOptions } from './mergeOptions';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** A fitted frame to be merged. */
export interface MergeFrame {
  readonly name: string;
  /** the picture and its halvings, largest first */
  readonly levels: readonly EncodedImage[];
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
  /** exposure on the set's common scale, EV */
  readonly stops: number;
  /** linear magnification against the reference */
  readonly scale: number;
  /** standard deviation of the darks, codes of 255, where it is known */
  readonly noise?: number;
  readonly sharpness?: number;
}

/** How a set that is no bracket is merged; what does not apply to its kind is not looked at. */
export interface SetWish {
  readonly projection: ProjectionKind | 'auto';
  /** bends a panorama to a rectangle; of the same projection */
  readonly mesh?: RectangleMesh;
  readonly stack: StackMethod;
  readonly background: 'keep' | 'subtract' | 'divide';
  readonly backgroundForm: BackgroundForm;
  readonly focus: FocusSchool | 'auto';
  readonly moments: MomentWishes;
  /** the part of the reference that a swap takes from another frame */
  readonly part?: Rectangle;
  /** which frame was pointed out where, by index among the frames; joints are then cut where they show least */
  readonly dabs?: readonly IndexedDab[];
  readonly measures: FusionMeasures;
}

/** The merge that fits most sets. */
export const PLAIN_WISH: SetWish = {
  projection: 'auto',
  stack: 'clip',
  background: 'keep',
  backgroundForm: 'curve',
  focus: 'auto',
  moments: EVENING,
  measures: PAPER_MEASURES,
};

/** A merged set that is no bracket. */
export interface SetMerged {
  readonly merged: Merged;
  readonly findings: readonly Finding[];
  /** the part of the picture without blank borders */
  readonly crop?: Rectangle;
  readonly projection?: ProjectionKind;
  /** [cell of half size] place along the frames' order: which is sharp where */
  readonly depth?: Float32Array;
  readonly regions?: readonly MomentRegion[];
  /** which school suits a focus set */
  readonly school?: SchoolChoice;
}

/** A set of any kind but a bracket. */
export type OtherKind = Exclude<SetKind, 'bracket'>;

/**
 * Merges a fitted set by its kind in the pool.
 * @param frames in the order of the kind: near to far for focus
 * @param reference index among the frames
 */
export function mergeSet(
  pool: WorkerPool,
  kind: OtherKind,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  panorama: PanoramaFit | undefined,
  options: MergeOptions = {},
): Promise<SetMerged> {
  switch (kind) {
    case 'panorama':
      if (!panorama) throw new Problem('The frames of the panorama have not been fitted yet.');
      return mergePanorama(pool, frames, panorama, wish, options);
    case 'focus':
      return mergeFocus(pool, frames, reference, wish, options);
    case 'stack':
      return mergeStack(pool, frames, reference, wish, options);
    case 'moments':
      return mergeMoments(pool, frames, reference, wish, options);
    case 'swap':
      return mergeSwap(pool, frames, reference, wish, options);
    case 'developments':
      return mergeDevelopments(pool, frames, reference, wish, options);
  }
}

const pixels = (frames: readonly MergeFrame[]): { image: EncodedImage; matrix: Matrix3 }[] =>
  frames.map(({ levels, matrix }) => ({ image: levels[0], matrix }));

async function mergeDevelopments(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  options: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  return {
    merged: await mergeChosen(pool, pixels(frames), wish.measures, width, height, options),
    findings: [],
  };
}

async function mergeFocus(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  { signal, onProgress }: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  const level = energyLevel(frames.length, width, height);
  let done = 0;
  const energies = await Promise.all(
    pixels(frames).map(async ({ image, matrix }) => {
      const energy = await withWhole(
        pool,
        [image],
        ([whole]) => pool.run((tasks) => tasks.focusEnergy(whole, matrix, width, height, level), { signal }),
        signal,
      );
      onProgress?.((0.35 * ++done) / frames.length);
      return energy;
    }),
  );
  const buffers = focusBuffers(energies[0], frames.length);
  const bands = cellBands(energies[0]);
  await Promise.all(
    bands.map((band) => pool.run((tasks) => tasks.shareBand(energies, band, buffers), { signal })),
  );
  const noises = energies.map((e) => e.noise);
  await pool.run((tasks) => tasks.farAnswers(noises, buffers), { signal });
  const lost = await Promise.all(
    bands.map((band) => pool.run((tasks) => tasks.mapBand(energies, band, buffers), { signal })),
  );
  const map = mapOf(buffers, lost);
  const choice = chooseSchool(map.lost);
  const school = wish.focus === 'auto' ? choice.school : wish.focus;
  const weights = school === 'pyramid' ? BY_DETAIL : map;
  const inputs = pixels(frames).map((f, i) => ({ ...f, noise: energies[i].variance }));
  const merged = await mergeChosen(pool, inputs, weights, width, height, {
    signal,
    onProgress: (share) => onProgress?.(0.45 + 0.55 * share),
  });
  const findings = focusFindings(
    map,
    frames.map((f) => f.scale),
  );
  return { merged, findings, depth: onHalfGrid(map.depth, map, width, height), school: choice };
}

async function mergeStack(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  { signal, onProgress }: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  const plan = planFusion(width, height);
  const zero = frames[reference].stops;
  const inputs = frames.map((f) => ({
    image: f.levels[0],
    matrix: f.matrix,
    stops: f.stops - zero,
    weight: stackWeight(f, frames[reference]),
  }));
  const half = ((width + 1) >> 1) * ((height + 1) >> 1);
  const buffers: StackBuffers = {
    image: emptyImage(width, height, 65535),
    shares: frames.map(() => new Uint8Array(sharedBytes(half))),
    rejected: sharedFloats(height),
  };
  let done = 0;
  await inStrips(
    pool,
    inputs.map((f) => f.image),
    plan.bands,
    (tasks, band, images) => {
      const laid = inputs.map((f, i) => ({ ...f, image: images[i] }));
      return tasks.stackBand(laid, wish.stack, width, band, buffers);
    },
    {
      signal,
      reached: (f, { top, rows }) => reachedRows(inputs[f], { x: 0, y: top, width, height: rows }),
      // shares are kept at half size
      halves: halfRows(2 ** plan.split),
      onPart: (share) => onProgress?.(0.9 * (done += share)),
    },
  );
  const rejected = buffers.rejected.reduce((a, b) => a + b, 0) / (3 * frames.length * width * height);
  const findings = await withWhole(
    pool,
    [frames[reference].levels[0]],
    ([single]) =>
      pool.run((tasks) => tasks.stackFindings(buffers.image, single, frames.length, rejected), { signal }),
    signal,
  );
  let { image } = buffers;
  if (wish.background !== 'keep') {
    const how = wish.background;
    image = emptyImage(width, height, 65535);
    await pool.run((tasks) => tasks.evenSky(buffers.image, how, wish.backgroundForm, image), { signal });
  }
  return { merged: { image, shares: buffers.shares }, findings };
}

/** Samples count by their noise (inverse variance) and, more gently, by sharpness. */
function stackWeight(frame: MergeFrame, reference: MergeFrame): number {
  const noise = frame.noise && reference.noise ? (reference.noise / frame.noise) ** 2 : 1;
  const sharp = frame.sharpness && reference.sharpness ? frame.sharpness / reference.sharpness : 1;
  return Math.max(0.1, Math.min(4, noise)) * Math.max(0.2, Math.min(2, sharp * sharp));
}

async function mergeMoments(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  { signal, onProgress }: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  const inputs = frames.map(({ levels, matrix }) => ({ levels, matrix }));
  const { regions, made, takes, ...weights } = await pool.run(
    (tasks) => tasks.chooseMoments(inputs, wish.moments, reference, width, height, wish.dabs),
    { signal },
  );
  onProgress?.(0.3);
  const after = { signal, onProgress: (share: number) => onProgress?.(0.3 + 0.65 * share) };
  const merged = await mergeChosen(pool, pixels(frames), weights, width, height, after, takes);
  if (takes) await pool.run((tasks) => tasks.shareThings(merged.shares, takes, width), { signal });
  const findings = wish.dabs ? await seamFindings(pool, inputs, made, merged.image, weights, signal) : [];
  return { merged, findings, regions };
}

/** What seams between frames add to the picture. */
async function seamFindings(
  pool: WorkerPool,
  frames: readonly Pick<MergeFrame, 'levels' | 'matrix'>[],
  made: Int16Array,
  image: EncodedImage,
  { width, height, level }: ReducedGrid,
  signal?: AbortSignal,
): Promise<readonly Finding[]> {
  const grid = { width, height, level };
  return pool.run((tasks) => tasks.seamFindings(made, frames, image, grid), { signal });
}

async function mergeSwap(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  wish: SetWish,
  options: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  const others = frames.map((_, i) => i).filter((i) => i !== reference);
  if (others.length === 0) throw new Problem('A swap needs a second frame to take the part from.');
  if (wish.dabs && wish.dabs.length > 0) return mergeDabbed(pool, frames, reference, wish.dabs, options);
  const taken = others.reduce((best, i) =>
    (frames[i].sharpness ?? 0) > (frames[best].sharpness ?? 0) ? i : best,
  );
  const inputs = frames.map(({ levels, matrix }) => ({ levels, matrix }));
  const swap = await pool.run(
    (tasks) => tasks.swapWeights(inputs, reference, taken, wish.part, width, height),
    { signal: options.signal },
  );
  if (!swap)
    throw new Problem(
      `“${frames[taken].name}” hardly differs from the reference: nothing to swap was found. Mark the part to take.`,
    );
  // the reference's own hand must not shine through from below: the part stands in both before they are blended
  const takes = {
    ...swap.weights,
    stops: frames.map((f) => f.stops),
    planes: swap.weights.planes.map((plane, f) => (f === taken ? plane : undefined)),
  };
  const merged = await mergeChosen(pool, pixels(frames), swap.weights, width, height, options, takes);
  return {
    merged,
    findings: [
      judge('merge.drift', swap.drift),
      judge('merge.joint', 255 * swap.weights.seam, { where: swap.part }),
    ],
  };
}

/** Takes what was pointed out in each frame. */
async function mergeDabbed(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  reference: number,
  dabs: readonly IndexedDab[],
  options: MergeOptions,
): Promise<SetMerged> {
  const { width, height } = frames[reference].levels[0];
  const inputs = frames.map(({ levels, matrix }) => ({ levels, matrix }));
  const { signal } = options;
  const { made, takes, ...weights } = await pool.run(
    (tasks) => tasks.dabbedWeights(inputs, reference, width, height, dabs),
    { signal },
  );
  const merged = await mergeChosen(pool, pixels(frames), weights, width, height, options, takes);
  if (takes) await pool.run((tasks) => tasks.shareThings(merged.shares, takes, width), { signal });
  const findings = await seamFindings(pool, inputs, made, merged.image, weights, signal);
  return { merged, findings };
}

async function mergePanorama(
  pool: WorkerPool,
  frames: readonly MergeFrame[],
  fit: PanoramaFit,
  wish: SetWish,
  { signal, onProgress }: MergeOptions,
): Promise<SetMerged> {
  const projection = wish.projection === 'auto' ? chooseProjection(fit).recommended : wish.projection;
  const levels = frames.map((f) => f.levels);
  const canvas = placeCanvas(fit, projection, undefined, wish.mesh);
  const plan = await pool.run((tasks) => tasks.planPanorama(levels, fit, canvas), { signal });
  onProgress?.(0.2);
  const image = emptyImage(canvas.width, canvas.height, 65535);
  const tiles = panoramaTiles(canvas);
  const full = frames.map((f) => f.levels[0]);
  let done = 0;
  await inStrips(
    pool,
    full,
    tiles,
    (tasks, tile, images) => tasks.blendTile(images, fit, plan, tile, image),
    {
      signal,
      reached: (f, tile) => turnedRows(full[f], fit.lens, fit.rotations[f], canvas, tileArea(plan, tile)),
      // cells of the coarsest blended level
      halves: halfHeight(32),
      onPart: (share) => onProgress?.(0.2 + 0.75 * (done += share)),
    },
  );
  const names = frames.map((f) => f.name);
  const places = seamPlaces(plan);
  const shown = await Promise.all(
    full.map((frame, f) =>
      withWhole(
        pool,
        [frame],
        ([whole]) => pool.run((tasks) => tasks.frameSteps(places, f, whole, plan.canvas, fit), { signal }),
        signal,
      ),
    ),
  );
  const { shares, findings, crop } = await pool.run(
    (tasks) => tasks.measureDrawn(image, plan, { places, shown }, fit, names),
    { signal },
  );
  return { merged: { image, shares }, findings, crop, projection };
}
