import { frameFindings } from '@/core/capture/frameFindings';
import { sharedByAll } from '@/core/finish/commonRectangle';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { type LevelledFrame } from '@/core/merge/edgeFindings';
import { type Finding } from '@/core/proof/finding';
import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { fitFindings } from '@/core/register/fitFindings';
import { fitFrames } from '@/engine/fitFrames';
import { mergeFrames } from '@/engine/mergeFrames';
import { type WorkerPool } from '@/engine/workerPool';
import { loadFrames, measuredFrame, measureFrames, proposeSet } from './loadFrames';
import { type MergeCommand } from './readArguments';
import { writeBytes, writeOutput } from './writeOutput';

/** Halo and fringe of the merged picture. */
async function edgeFindings(
  pool: WorkerPool,
  image: EncodedImage,
  frames: readonly LevelledFrame[],
  zero: number,
): Promise<Finding[]> {
  const levels = await pool.run((tasks) => tasks.levels(image));
  const relative = frames.map(({ levels: own, matrix, stops }) => ({
    levels: own,
    matrix,
    stops: stops - zero,
  }));
  return pool.run((tasks) => tasks.edgeFindings(levels, relative));
}

const progress = (text: string): void => void process.stderr.write(`${text}\n`);

/** Fits and merges a bracket, writes the picture and the report of the contract. */
export async function mergeCommand(pool: WorkerPool, command: MergeCommand): Promise<void> {
  const { files } = command;
  const start = performance.now();
  progress(`decoding ${files.length} files`);
  const frames = await loadFrames(pool, files);
  if (frames.length < 2)
    throw new Problem(`A bracket needs at least two frames, and “${files[0]}” is one. Name the others too.`);
  const { stops, set } = await proposeSet(pool, frames);
  const decoded = performance.now();
  const reference = command.reference ?? set.reference;
  progress(`fitting to ${frames[reference].file}`);
  const inputs = frames.map((f, i) => ({ image: f.levels[0], stops: stops[i].stops }));
  const fits = await fitFrames(pool, inputs, reference, command);
  const fitted = performance.now();
  const used = fits.flatMap((fit, i) =>
    fit.fitted
      ? [
          {
            levels: frames[i].levels,
            image: frames[i].levels[0],
            matrix: fit.matrix,
            stops: stops[i].stops,
            name: frames[i].file,
          },
        ]
      : [],
  );
  const { width, height } = frames[reference].levels[0];
  progress(`merging ${used.length} frames of ${width} × ${height}`);
  let shown = 0;
  const movers = { reference: used.findIndex((f) => f.image === frames[reference].levels[0]), choices: [] };
  const pixels = used.map(({ image, matrix, stops: own }) => ({ image, matrix, stops: own }));
  const merged = await mergeFrames(pool, pixels, width, height, PAPER_MEASURES, movers, {
    onProgress: (share) => {
      if (share - shown < 0.25) return;
      shown = share;
      progress(`merging ${Math.round(100 * share)} %`);
    },
  });
  const mergedAt = performance.now();
  const placed = used.map(({ image, matrix, name }) => ({
    width: image.width,
    height: image.height,
    matrix,
    name,
  }));
  const findings = [
    ...frameFindings(
      frames.map((f, i) => measuredFrame(f, stops[i])),
      0,
      await measureFrames(pool, frames, stops, reference),
    ),
    ...fitFindings(
      fits.map((registration, i) => ({ name: frames[i].file, registration, isReference: i === reference })),
      sharedByAll({ x: 0, y: 0, width, height }, placed),
    ),
    ...(await pool.run((tasks) => tasks.mergeFindings(merged, placed))),
    ...(await edgeFindings(pool, merged.image, used, stops[reference].stops)),
  ];
  const encodeStart = performance.now();
  const { facts } = frames[reference];
  await writeOutput(pool, merged.image, command.out, { facts, disclosed: false });
  const end = performance.now();
  if (command.report) {
    const report = {
      kind: 'bracket',
      reference,
      frames: frames.map((f, i) => ({
        file: f.file,
        width: f.levels[0].width,
        height: f.levels[0].height,
        fitted: fits[i].fitted,
        ...(fits[i].fitted ? {} : { why: `“${f.file}” was left out: ${fits[i].why}.` }),
        matrix: fits[i].matrix,
        ev: stops[i].stops - stops[reference].stops,
        evSource: stops[i].source,
        residualPx: fits[i].residual,
        model: fits[i].model,
      })),
      output: { file: command.out, width, height, offset: [0, 0] },
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
