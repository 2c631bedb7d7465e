import { KIND_NAMES } from '@/core/capture/setKind';
import { projectionOf } from '@/core/recipe/pictureGrid';
import {
  baseScope,
  bendOf,
  fitOf,
  planeFitOf,
  mergedFrames,
  panoramaOf,
  referenceOf,
} from '@/core/recipe/setFrames';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { standIns } from '@/core/recipe/views';
import { Problem } from '@/core/proof/problem';
import { IDENTITY } from '@/core/raster/matrix3';
import { unsureShare } from '@/core/register/parallax/localBend';
import { restIfLarge } from '@/engine/restIfLarge';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench, type BenchState } from '@/store/benchState';
import { exportProject, finishedPicture } from '@/store/deliver';
import { measuresOf, mergedNow } from '@/store/madePixels';
import { findingsOfFit, stationFindings } from '@/store/stationFindings';
import { rest, whenMade } from './projectBench';
import { type LeftOut, type LoadedFrame, loadFrames } from './loadFrames';
import { progress, progressOf } from './progress';
import { type MergeCommand } from './readArguments';
import { keepsLight, setBench } from './setBench';
import { writeBytes, writeOutput } from './writeOutput';
import { stopwatch, writeReport } from './writeReport';

/** Merges a set by a recipe of its own, writes the picture, the report of the contract and the project of it. */
export async function mergeCommand(pool: WorkerPool, command: MergeCommand): Promise<void> {
  const { files, kind } = command;
  const watch = stopwatch();
  progress(`decoding ${files.length} files`);
  const read = await loadFrames(pool, files);
  const loaded = withoutTwins(read);
  const frames = loaded.filter((f): f is LoadedFrame => 'levels' in f);
  const leftOut = loaded.filter((f): f is LeftOut => 'why' in f);
  for (const { why } of leftOut) progress(why);
  const wished = command.reference === undefined ? undefined : read[command.reference];
  if (wished && 'why' in wished) throw new Problem(`The reference cannot be read. ${wished.why}`);
  if (frames.length < 2)
    throw new Problem(
      leftOut.length > 0
        ? leftOut.map((f) => f.why).join(' ')
        : `A ${KIND_NAMES[kind]} needs at least two frames, and “${files[0]}” is one. Name the others too.`,
    );
  const pixels = frames.reduce((sum, { levels: [{ width, height }] }) => sum + width * height, 0);
  restIfLarge(pool, pixels);
  watch.lap('decode');
  const bench = await setBench(pool, command, frames, wished);
  try {
    bench.store.setState({ unreadable: leftOut.length });
    await whenFitted(bench, frames);
    watch.lap('fit');
    await whenMade(bench, progress, isMade);
    rest(bench);
    restIfLarge(pool, pixels);
    const isLight = keepsLight(command);
    const image = await finishedPicture(bench, isLight ? 1 : 65535, 0, { onProgress: progressOf('drawing') });
    const scope = scopeOf(bench.store.getState());
    watch.lap('merge');
    const facts = referenceOf(scope)?.facts;
    await writeOutput(pool, image, command.out, { facts, disclosed: false }, command.float && !isLight);
    watch.lap('encode');
    if (command.project) {
      const packed = await exportProject(bench);
      if (!packed) throw new Problem(bench.store.getState().problems.join(' '));
      await writeBytes(command.project, packed.bytes);
    }
    const output = {
      file: command.out,
      width: image.width,
      height: image.height,
      // a panorama has a geometry of its own
      ...(kind === 'panorama' ? {} : { offset: [0, 0] }),
    };
    const content = () => ({ ...reportOf(scope, loaded), output, findings: findingsOf(bench) });
    await writeReport(command.report, content, watch);
    progress(`wrote ${command.out}`);
  } finally {
    await bench.actions.close();
  }
}

const findingsOf = ({ store }: Bench) =>
  (['frames', 'fit', 'merge'] as const).flatMap((s) => stationFindings(store.getState(), s) ?? []);

/** The set that is merged. */
function scopeOf({ history }: BenchState): SetScope {
  const scope = baseScope(history.project);
  if (!scope) throw new Error('a project without a set');
  return scope;
}

/** Whether the set is merged, and measured. */
function isMade(state: BenchState): boolean {
  const scope = scopeOf(state);
  return mergedNow(state, scope) !== undefined && measuresOf(state, scope) !== undefined;
}

/**
 * Waits until every frame is fitted, or known not to be.
 * @throws Problem when nothing fits that must
 */
async function whenFitted(bench: Bench, frames: readonly LoadedFrame[]): Promise<void> {
  await whenMade(bench, progress, (state) => findingsOfFit(scopeOf(state)) !== undefined);
  const scope = scopeOf(bench.store.getState());
  const { kind } = scope.set;
  const reference = referenceOf(scope);
  const file = frames.find((f) => f.hash === reference?.hash)?.file ?? '';
  if (kind !== 'bracket' && mergedFrames(scope).length < 2)
    throw new Problem(
      kind === 'panorama'
        ? `The frames do not overlap: nothing in “${file}” was found again in another. Shoot with about 30 % overlap.`
        : `None of the other frames could be fitted to “${file}”: ${scope.frames.map((f) => fitOf(scope, f)).find((fit) => fit?.fitted === false)?.why ?? 'nothing is shared'}.`,
    );
}

/** What the report of the contract says of the set and its frames. */
function reportOf(scope: SetScope, loaded: readonly (LoadedFrame | LeftOut)[]): object {
  const reference = referenceOf(scope);
  const panorama = panoramaOf(scope);
  const standsFor = standIns(scope);
  const rotationOf = (frame: Frame) => panorama?.fit.rotations[panorama.frames.indexOf(standsFor(frame.id))];
  return {
    kind: scope.set.kind,
    reference: loaded.findIndex((f) => 'hash' in f && f.hash === reference?.hash),
    frames: loaded.map((f) => {
      const frame = 'hash' in f ? scope.frames.find((own) => own.hash === f.hash) : undefined;
      const fit = frame && fitOf(scope, frame);
      const bend = frame && bendOf(scope, frame);
      if (!frame || !fit || !reference) return unread(f.file, 'why' in f ? f.why : '');
      const rotation = fit.fitted ? rotationOf(frame) : undefined;
      return {
        file: f.file,
        width: frame.width,
        height: frame.height,
        fitted: fit.fitted,
        ...(fit.fitted ? {} : { why: `“${f.file}” was left out: ${fit.why}.` }),
        // of the frame as it came, bent or not
        matrix: bend ? (planeFitOf(scope, frame) ?? fit).matrix : fit.matrix,
        ev: frame.stops - reference.stops,
        evSource: frame.stopsSource,
        residualPx: fit.residual,
        model: fit.model,
        ...(bend ? { bend: { px: bend.bends, unsure: unsureShare(bend), agreement: bend.agreement } } : {}),
        ...(rotation ? { rotation } : {}),
      };
    }),
    ...(panorama ? { focalPx: panorama.fit.lens.focalPx, projection: projectionOf(scope) } : {}),
  };
}

/** A file that could not be read, as the report shows it among the frames. */
const unread = (file: string, why: string) => ({
  file,
  width: 0,
  height: 0,
  fitted: false,
  why,
  matrix: IDENTITY,
  ev: 0,
  evSource: 'measured',
  residualPx: { typical: 0, worst: 0 },
});

/** A file that holds the very bytes of one before it is left out: it says nothing new. */
function withoutTwins(loaded: readonly (LoadedFrame | LeftOut)[]): (LoadedFrame | LeftOut)[] {
  const first = new Map<string, string>();
  return loaded.map((f) => {
    if ('why' in f) return f;
    const twin = first.get(f.hash);
    if (twin !== undefined)
      return { file: f.file, why: `“${f.file}” is the same file as “${twin}”; it is used once.` };
    first.set(f.hash, f.file);
    return f;
  });
}
