// One set from raw files, fitted and merged by Marsh with two workers in a process of its own, so that its peak of memory is its own.
// Arguments: folder, kind, count, width, height, runs, and the stops of a bracket.
import { closeSync, openSync, readSync } from 'node:fs';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { type SetKind } from '@/core/capture/setKind';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { sharedBytes } from '@/core/raster/raster';
import { fitFrames } from '@/engine/fitFrames';
import { fitSet, type SetFrame } from '@/engine/fitSet';
import { mergeFrames } from '@/engine/mergeFrames';
import { mergeSet, type OtherKind, PLAIN_WISH } from '@/engine/mergeSet';
import { nodePool } from '@/engine/nodePool';
import { imageLevels } from '@/engine/tasks';

const [folder, kind, ...numbers] = process.argv.slice(2);
const [count, width, height, runs, ...stops] = numbers.map(Number);
const pool = nodePool(new URL('./node.worker.mjs', import.meta.url), 2);
const images = Array.from({ length: count }, (_, i): EncodedImage => {
  const data = new Uint8Array(sharedBytes(width * height * 3));
  const file = openSync(`${folder}/${i}.rgb`, 'r');
  readSync(file, data);
  closeSync(file);
  return { width, height, white: 255, data };
});

/** The first frame of a bracket is its reference; of the others the one in the middle. */
async function bracket(): Promise<readonly [number, number]> {
  const start = performance.now();
  const inputs = images.map((image, i) => ({ image, stops: stops[i] }));
  const fits = await fitFrames(pool, inputs, 0, { motion: 'auto' });
  const fitted = performance.now();
  const frames = inputs.map((input, i) => ({ ...input, matrix: fits[i].matrix }));
  await mergeFrames(pool, frames, width, height, PAPER_MEASURES, { reference: 0, choices: [] });
  return [fitted - start, performance.now() - fitted];
}

async function other(of: OtherKind): Promise<readonly [number, number]> {
  const middle = count >> 1;
  const start = performance.now();
  const inputs = images.map((image): SetFrame => ({ levels: imageLevels(image), facts: {}, stops: 0 }));
  const order = images.map((_, i) => i);
  const fit = await fitSet(pool, of satisfies SetKind, inputs, order, middle, { motion: 'auto' });
  const fitted = performance.now();
  const used = inputs.map(({ levels }, i) => ({
    name: String(i),
    levels,
    matrix: fit.registrations[i].matrix,
    stops: 0,
    scale: fit.registrations[i].scale,
  }));
  await mergeSet(pool, of, used, middle, PLAIN_WISH, fit.panorama);
  return [fitted - start, performance.now() - fitted];
}

const once = (): Promise<readonly [number, number]> =>
  kind === 'bracket' ? bracket() : other(kind as OtherKind);
if (runs > 1) await once();
let best = await once();
for (let k = 1; k < runs; k++) {
  const again = await once();
  if (again[0] + again[1] < best[0] + best[1]) best = again;
}
pool.close();
const peakMb = process.resourceUsage().maxRSS / 1024;
console.log(JSON.stringify({ fit: best[0], merge: best[1], peakMb }));
