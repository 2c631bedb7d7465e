import { warpImage } from '@/core/raster/warp';
import { emptyImage, type EncodedImage, type White } from '@/core/raster/encodedImage';
import { Problem } from '@/core/proof/problem';
import { baseScope, referenceOf } from '@/core/recipe/setFrames';
import { STATIONS } from '@/store/session';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/benchState';
import { finishedPicture, finishedSize } from '@/store/deliver';
import { stationFindings } from '@/store/stationFindings';
import { isWhole, openProject, rest, whenMade } from './projectBench';
import { progress, progressOf } from './progress';
import { type RenderCommand } from './readArguments';
import { whiteOf, writeOutput } from './writeOutput';
import { stopwatch, writeReport } from './writeReport';

/** Draws a project file as the bench delivers it, and reports what was found. */
export async function renderCommand(pool: WorkerPool, command: RenderCommand): Promise<void> {
  const { project: file, out, size, report } = command;
  const watch = stopwatch();
  progress(`opening ${file}`);
  const bench = await openProject(pool, file);
  try {
    const { frames } = bench.store.getState().history.project;
    if (frames.length === 0) throw new Problem(`“${file}” holds no frames: there is nothing to draw.`);
    watch.lap('decode');
    await whenMade(bench, progress, isWhole(report !== undefined));
    rest(bench);
    watch.lap('merge');
    const image = await drawn(bench, whiteOf(out), size);
    watch.lap('draw');
    const { project } = bench.store.getState().history;
    const scope = baseScope(project);
    const facts = scope && referenceOf(scope)?.facts;
    await writeOutput(pool, image, out, { facts, title: project.title, disclosed: false });
    watch.lap('encode');
    const output = { file: out, width: image.width, height: image.height };
    const findings = () => STATIONS.flatMap((s) => stationFindings(bench.store.getState(), s) ?? []);
    await writeReport(report, () => ({ output, findings: findings() }), watch);
    progress(`wrote ${out}`);
  } finally {
    await bench.actions.close();
  }
}

/** The finished picture, its long edge so many pixels: from the smallest level that has them all. */
async function drawn(bench: Bench, white: White, size?: number): Promise<EncodedImage> {
  const whole = finishedSize(bench);
  const long = Math.max(whole.width, whole.height);
  const onProgress = progressOf('drawing');
  if (size === undefined || size >= long) return finishedPicture(bench, white, 0, { onProgress });
  const image = await finishedPicture(bench, white, Math.floor(Math.log2(long / size)), { onProgress });
  const scale = Math.max(image.width, image.height) / size;
  const area = {
    ...{ x: 0, y: 0 },
    width: Math.max(1, Math.round(image.width / scale)),
    height: Math.max(1, Math.round(image.height / scale)),
  };
  const planes = warpImage(
    image,
    [scale, 0, (scale - 1) / 2, 0, scale, (scale - 1) / 2, 0, 0, 1],
    area,
    'bilinear',
  );
  const small = emptyImage(area.width, area.height, white);
  const most = white === 1 ? Infinity : white;
  for (let i = 0; i < area.width * area.height; i++)
    for (let c = 0; c < 3; c++) {
      const code = Math.min(most, Math.max(0, planes[c][i] * white));
      small.data[3 * i + c] = white === 1 ? code : Math.round(code);
    }
  return small;
}
