import { warpImage } from '@/core/raster/warp';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { Problem } from '@/core/proof/problem';
import { baseScope, referenceOf } from '@/core/recipe/project';
import { STATIONS } from '@/store/session';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/bench';
import { finishedPicture, finishedSize } from '@/store/deliver';
import { stationFindings } from '@/store/stationFindings';
import { isWhole, openProject, rest, whenMade } from './projectBench';
import { type RenderCommand } from './readArguments';
import { writeBytes, writeOutput } from './writeOutput';

const progress = (text: string): void => void process.stderr.write(`${text}\n`);

/** Draws a project file as the bench delivers it, and reports what was found. */
export async function renderCommand(pool: WorkerPool, command: RenderCommand): Promise<void> {
  const { project: file, out, size, report } = command;
  const start = performance.now();
  progress(`opening ${file}`);
  const bench = await openProject(pool, file);
  try {
    const { frames } = bench.store.getState().history.project;
    if (frames.length === 0) throw new Problem(`“${file}” holds no frames: there is nothing to draw.`);
    const decoded = performance.now();
    await whenMade(bench, progress, isWhole(report !== undefined));
    rest(bench);
    const made = performance.now();
    progress('drawing');
    const image = await drawn(bench, /\.jpe?g$/i.test(out) ? 255 : /\.exr$/i.test(out) ? 1 : 65535, size);
    const drawnAt = performance.now();
    const { project } = bench.store.getState().history;
    const scope = baseScope(project);
    const facts = scope && referenceOf(scope)?.facts;
    await writeOutput(pool, image, out, { facts, title: project.title, disclosed: false });
    const end = performance.now();
    if (report) {
      const findings = STATIONS.flatMap((s) => stationFindings(bench.store.getState(), s) ?? []);
      const written = {
        output: { file: out, width: image.width, height: image.height },
        findings,
        timesMs: {
          decode: decoded - start,
          merge: made - decoded,
          draw: drawnAt - made,
          encode: end - drawnAt,
          total: end - start,
        },
        peakMb: process.resourceUsage().maxRSS / 1024,
      };
      await writeBytes(report, `${JSON.stringify(written, undefined, 2)}\n`);
    }
    progress(`wrote ${out}`);
  } finally {
    await bench.actions.close();
  }
}

/** The finished picture, its long edge so many pixels: from the smallest level that has them all. */
async function drawn(bench: Bench, white: 255 | 65535 | 1, size?: number): Promise<EncodedImage> {
  const whole = finishedSize(bench);
  const long = Math.max(whole.width, whole.height);
  if (size === undefined || size >= long) return finishedPicture(bench, white, 0);
  const image = await finishedPicture(bench, white, Math.floor(Math.log2(long / size)));
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
