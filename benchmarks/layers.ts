import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BlendMode } from '@/core/layers/blendMode';
import { BLENDS, layeredProject } from './layeredProject';

/** What libvips is asked for: the same files, gains, saturation, masks that are there already, blends, one TIFF. */
const PEER = `
import sharp from 'sharp';
const [folder, count, width, height, blends] = process.argv.slice(1);
sharp.concurrency(2);
const names = JSON.parse(blends);
const start = performance.now();
const [w, h] = [Number(width), Number(height)];
const mask = await sharp({ create: { width: w >> 5, height: h >> 5, channels: 3, background: '#b0b0b0', noise: { type: 'gaussian', mean: 176, sigma: 20 } } })
  .greyscale().resize(w, h).raw().toBuffer();
const masked = performance.now();
let whole = await sharp(folder + '/0.jpg').raw().toBuffer();
const raw = { width: w, height: h, channels: 3 };
for (let k = 1; k < Number(count); k++) {
  const layer = await sharp(folder + '/' + k + '.jpg').linear(1.1, 0).modulate({ saturation: 1.05 })
    .joinChannel(mask, { raw: { width: w, height: h, channels: 1 } }).raw().toBuffer();
  whole = await sharp(whole, { raw }).composite([{ input: layer, raw: { ...raw, channels: 4 }, blend: names[k % names.length] }])
    .removeAlpha().raw().toBuffer();
}
await sharp(whole, { raw }).tiff({ compression: 'none' }).toFile(folder + '/peer.tif');
const end = performance.now();
console.log(JSON.stringify({ total: end - start - (masked - start), peakMb: process.resourceUsage().maxRSS / 1024 }));
`;
const PEER_NAMES: Readonly<Partial<Record<BlendMode, string>>> = { normal: 'over' };

interface Run {
  readonly total: number;
  readonly peakMb: number;
  readonly steps?: Readonly<Record<string, number>>;
}

const ask = (args: readonly string[]): string =>
  execFileSync(process.execPath, args, { stdio: ['ignore', 'pipe', 'ignore'] }).toString();

function own(folder: string, file: string): Run {
  const report = join(folder, 'report.json');
  ask(['cli/marsh.mjs', 'render', file, '--out', join(folder, 'own.tif'), '--report', report]);
  const { timesMs, peakMb } = JSON.parse(readFileSync(report, 'utf8')) as {
    timesMs: Record<string, number>;
    peakMb: number;
  };
  return { total: timesMs.total, peakMb, steps: timesMs };
}

function peer(folder: string, count: number, width: number, height: number): Run | undefined {
  const names = JSON.stringify(BLENDS.map((b) => PEER_NAMES[b] ?? b));
  try {
    const args = [folder, count, width, height, names].map(String);
    return JSON.parse(ask(['--input-type=module', '-e', PEER, '--', ...args])) as Run;
  } catch {
    // it comes with another package, where there is a build of it
    return undefined;
  }
}

console.log('\n## Layers laid over each other, from files to a delivered TIFF\n');
console.log(
  '| layers | Marsh, ms (decode, make, draw, encode) | peak, MB | libvips, ms | peak, MB | libvips / Marsh |',
);
console.log('| --- | ---: | ---: | ---: | ---: | ---: |');
for (const [count, width, height] of [
  [3, 3000, 2000],
  [10, 6000, 4000],
] as const) {
  const folder = mkdtempSync(join(tmpdir(), 'marsh-layers-'));
  try {
    const file = await layeredProject(folder, count, width, height);
    const [a, b] = [own(folder, file), peer(folder, count, width, height)];
    const { decode = 0, merge = 0, draw = 0, encode = 0 } = a.steps ?? {};
    const steps = [decode, merge, draw, encode].map((v) => v.toFixed(0)).join(', ');
    console.log(
      `| ${count} × ${(width * height) / 1e6} MP | ${a.total.toFixed(0)} (${steps}) | ${a.peakMb.toFixed(0)} | ${b?.total.toFixed(0) ?? '—'} | ${b?.peakMb.toFixed(0) ?? '—'} | ${b ? (b.total / a.total).toFixed(2) : '—'} × |`,
    );
  } finally {
    rmSync(folder, { recursive: true });
  }
}
