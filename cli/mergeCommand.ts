import { basename, extname } from 'node:path';
import { fileStem } from '@/store/deliver';
import { arrangeSet } from '@/core/capture/arrangeSet';
import { frameFindings } from '@/core/capture/frameFindings';
import { KIND_NAMES } from '@/core/capture/setKind';
import { Problem } from '@/core/proof/problem';
import { IDENTITY } from '@/core/raster/matrix3';
import { fitSet } from '@/engine/fitSet';
import { type WorkerPool } from '@/engine/workerPool';
import {
  candidatesOf,
  type LeftOut,
  type LoadedFrame,
  loadFrames,
  measuredFrame,
  measureFrames,
  stopsOf,
} from './loadFrames';
import { mergeBySet } from './mergeBySet';
import { mergePlaces } from './mergePlaces';
import { type MergeCommand } from './readArguments';
import { writeProject } from './writeProject';
import { writeBytes, writeOutput } from './writeOutput';

const progress = (text: string): void => void process.stderr.write(`${text}\n`);

/** Fits and merges a set, writes the picture and the report of the contract. */
export async function mergeCommand(pool: WorkerPool, command: MergeCommand): Promise<void> {
  const { files, kind } = command;
  const start = performance.now();
  progress(`decoding ${files.length} files`);
  const loaded = await loadFrames(pool, files);
  const frames = loaded.filter((f): f is LoadedFrame => 'levels' in f);
  const leftOut = loaded.filter((f): f is LeftOut => 'why' in f);
  for (const { why } of leftOut) progress(why);
  const wished = command.reference === undefined ? undefined : loaded[command.reference];
  if (wished && 'why' in wished) throw new Problem(`The reference cannot be read. ${wished.why}`);
  if (frames.length < 2)
    throw new Problem(
      leftOut.length > 0
        ? leftOut.map((f) => f.why).join(' ')
        : `A ${KIND_NAMES[kind]} needs at least two frames, and “${files[0]}” is one. Name the others too.`,
    );
  pool.rest();
  const stops = await stopsOf(pool, frames);
  const decoded = performance.now();
  const arranged = arrangeSet(kind, candidatesOf(frames, stops));
  const reference = wished ? frames.indexOf(wished) : arranged.reference;
  progress(`fitting to ${frames[reference].file}`);
  const inputs = frames.map(({ levels, facts }, i) => ({ levels, facts, stops: stops[i].stops }));
  const merged = await mergePlaces(pool, command, { frames, stops, reference, progress });
  const fit = merged?.fit ?? (await fitSet(pool, kind, inputs, arranged.order, reference, command));
  pool.rest();
  const fitted = performance.now();
  const result =
    merged?.result ??
    (await mergeBySet(pool, command, {
      frames,
      stops,
      fit,
      order: arranged.order,
      reference,
      progress,
    }));
  const mergedAt = performance.now();
  pool.rest();
  progress('measuring the frames');
  const findings = [
    ...frameFindings(
      frames.map((f, i) => measuredFrame(f, stops[i])),
      leftOut.length,
      await measureFrames(pool, frames, stops, reference),
      kind,
    ),
    ...result.findings,
  ];
  pool.rest();
  progress('writing');
  const encodeStart = performance.now();
  const { facts } = frames[reference];
  await writeOutput(pool, result.image, command.out, { facts, disclosed: false }, command.float);
  const end = performance.now();
  if (command.project)
    await writeProject(
      pool,
      command,
      frames,
      reference,
      fileStem(basename(command.out, extname(command.out))),
    );
  if (command.report) {
    const { registrations, panorama } = fit;
    const report = {
      kind,
      reference: loaded.indexOf(frames[reference]),
      frames: loaded.map((f) => {
        if ('why' in f) return unread(f);
        const i = frames.indexOf(f);
        const { fitted: isFitted, why, matrix, residual, model } = registrations[i];
        const rotation = panorama?.rotations[i];
        return {
          file: f.file,
          width: f.levels[0].width,
          height: f.levels[0].height,
          fitted: isFitted,
          ...(isFitted ? {} : { why: `“${f.file}” was left out: ${why}.` }),
          matrix,
          ev: stops[i].stops - stops[reference].stops,
          evSource: stops[i].source,
          residualPx: residual,
          model,
          ...(rotation ? { rotation } : {}),
        };
      }),
      ...(panorama ? { focalPx: panorama.lens.focalPx, projection: result.projection } : {}),
      output: {
        file: command.out,
        width: result.image.width,
        height: result.image.height,
        ...(result.offset ? { offset: result.offset } : {}),
      },
      findings,
      timesMs: {
        decode: decoded - start,
        fit: fitted - decoded,
        merge: mergedAt - fitted,
        encode: end - encodeStart,
        total: end - start,
      },
      peakMb: process.resourceUsage().maxRSS / 1024,
    };
    await writeBytes(command.report, `${JSON.stringify(report, undefined, 2)}\n`);
  }
  progress(`wrote ${command.out}`);
}

/** A file that could not be read, as the report shows it among the frames. */
const unread = ({ file, why }: LeftOut) => ({
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
