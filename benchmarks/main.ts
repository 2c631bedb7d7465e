import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { type Matrix3 } from '@/core/raster/matrix3';
import { warpImage } from '@/core/raster/warp';
import { fitFrames } from '@/engine/fitFrames';
import { mergeFrames } from '@/engine/mergeFrames';
import { nodePool } from '@/engine/nodePool';
import { fitError } from '@/tests/fitError';
import { type BenchSet, benchSet } from './frames';
import { opencvPeer } from './opencvPeer';

const RUNS = 3;
const WORKERS = 2;
const PYTHON = '/usr/bin/python3';

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

/** Median of several runs after one that is not counted, milliseconds. */
async function timed(run: () => unknown): Promise<number> {
  await run();
  const times: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    const start = performance.now();
    await run();
    times.push(performance.now() - start);
  }
  return median(times);
}

interface Figures {
  readonly fit: number;
  readonly fusion: number;
  readonly lanczos: number;
  readonly bilinear: number;
  readonly fits: readonly (Matrix3 | null | undefined)[];
}

async function marsh(set: BenchSet): Promise<Figures> {
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url), WORKERS);
  const { width, height, images, stops, truth } = set;
  const inputs = images.map((image, i) => ({ image, stops: stops[i] }));
  const frames = images.map((image, i) => ({ image, matrix: truth[i], stops: stops[i] }));
  const whole = { x: 0, y: 0, width, height };
  const figures = {
    fit: await timed(() => fitFrames(pool, inputs, 0, { motion: 'auto' })),
    fusion: await timed(() =>
      mergeFrames(pool, frames, width, height, PAPER_MEASURES, { reference: 0, choices: [] }),
    ),
    lanczos: await timed(() => warpImage(images[1], truth[1], whole, 'lanczos')),
    bilinear: await timed(() => warpImage(images[1], truth[1], whole, 'bilinear')),
    fits: (await fitFrames(pool, inputs, 0, { motion: 'auto' }))
      .slice(1)
      .map((f) => (f.fitted ? f.matrix : undefined)),
  };
  pool.close();
  return figures;
}

async function wasm({ images, truth }: BenchSet): Promise<Figures> {
  const peer = await opencvPeer();
  peer.load(images);
  const frames = images.map((_, i) => i).slice(1);
  const figures = {
    fit: await timed(() => frames.map(peer.fit)),
    fusion: await timed(() => peer.fuse(truth)),
    lanczos: await timed(() => peer.warp(1, truth[1], 'lanczos')),
    bilinear: await timed(() => peer.warp(1, truth[1], 'bilinear')),
    fits: frames.map(peer.fit),
  };
  peer.close();
  return figures;
}

function native({ images, truth, width, height }: BenchSet): Figures | undefined {
  if (!existsSync(PYTHON)) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'marsh-bench-'));
  try {
    images.forEach((image, i) => writeFileSync(join(folder, `${i}.rgb`), image.data));
    writeFileSync(join(folder, 'set.json'), JSON.stringify({ truth }));
    const printed = execFileSync(
      PYTHON,
      ['benchmarks/native.py', folder, ...[width, height, RUNS].map(String)],
      { stdio: ['ignore', 'pipe', 'ignore'] },
    );
    return JSON.parse(printed.toString()) as Figures;
  } catch {
    return undefined;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function errorsOf(set: BenchSet, { fits }: Figures): string {
  const errors = fits.map((m, i) =>
    m ? fitError(m, set.truth[i + 1], set.width, set.height).rms : undefined,
  );
  return errors.map((e) => (e === undefined ? 'none' : e < 10 ? e.toFixed(3) : e.toFixed(0))).join(', ');
}

const ms = (v: number | undefined): string => (v === undefined ? '—' : v.toFixed(0));
const ratio = (peer: number | undefined, own: number): string =>
  peer === undefined ? '—' : `${(peer / own).toFixed(2)} ×`;

for (const [width, height] of [
  [1500, 1000],
  [3000, 2000],
]) {
  const set = benchSet(width, height);
  const own = await marsh(set);
  const peer = await wasm(set);
  const other = native(set);
  const both = (f: Figures | undefined): number | undefined => f && f.fit + f.fusion;
  const rows: [string, number, number, number | undefined][] = [
    ['fit, 4 pairs', own.fit, peer.fit, other?.fit],
    ['Lanczos warps + fusion, 5 frames', own.fusion, peer.fusion, other?.fusion],
    ['fit + fusion', own.fit + own.fusion, peer.fit + peer.fusion, both(other)],
    ['perspective warp, Lanczos, 1 frame', own.lanczos, peer.lanczos, other?.lanczos],
    ['perspective warp, bilinear, 1 frame', own.bilinear, peer.bilinear, other?.bilinear],
  ];
  console.log(`\n## ${width} × ${height}\n`);
  console.log('| work | Marsh, ms | OpenCV wasm, ms | native OpenCV, ms | wasm / Marsh | native / Marsh |');
  console.log('| --- | ---: | ---: | ---: | ---: | ---: |');
  for (const [name, a, b, c] of rows)
    console.log(`| ${name} | ${ms(a)} | ${ms(b)} | ${ms(c)} | ${ratio(b, a)} | ${ratio(c, a)} |`);
  console.log(
    `\nFit error, px rms at ${set.stops.slice(1).join(', ')} EV: Marsh ${errorsOf(set, own)}; OpenCV wasm ${errorsOf(set, peer)}${other ? `; native ${errorsOf(set, other)}` : ''}.`,
  );
}
