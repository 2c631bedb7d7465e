import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { nightSky, FERROW_SKY } from '@/camera/nightSky';
import { readSensor } from '@/camera/readSensor';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { type SetKind } from '@/core/capture/setKind';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { fitSet, type SetFrame } from '@/engine/fitSet';
import { mergeSet, type OtherKind, PLAIN_WISH } from '@/engine/mergeSet';
import { nodePool } from '@/engine/nodePool';
import { imageLevels } from '@/engine/tasks';
import { demoScenes } from '@/scripts/sceneLights';

const WORKERS = 2;
const RUNS = 2;
const PYTHON = '/usr/bin/python3';

interface KindSet {
  readonly kind: OtherKind;
  readonly name: string;
  readonly frames: readonly EncodedImage[];
}

const scenes = demoScenes('./');
const MIX = { sky: 0.2, sun: 0.05, lamp: 2 };

function focusSet(width: number, height: number): KindSet {
  const scene = scenes.scene('mill', MIX);
  const frames = [3, 4, 5.5, 8, 13, 30].map((focus, i) =>
    shoot(scene, width, height, { focalLength: 50, focus, breathing: 0.06 }, { yaw: -6, pitch: -7 }, i),
  );
  return { kind: 'focus', name: `focus 6 × ${megapixels(width, height)} MP`, frames };
}

function panoramaSet(width: number, height: number): KindSet {
  const scene = scenes.scene('round', { sky: 0.3, sun: 0.22, lamp: 1.6 });
  const frames = Array.from({ length: 7 }, (_, i) =>
    shoot(
      scene,
      width,
      height,
      { focalLength: 45 },
      { yaw: (i - 3) * 21 - 4, pitch: 0.4 * ((i % 3) - 1) },
      i,
    ),
  );
  return { kind: 'panorama', name: `panorama 7 × ${megapixels(width, height)} MP`, frames };
}

function stackSet(width: number, height: number): KindSet {
  const sky = nightSky(FERROW_SKY, { width, height, dx: 0, dy: 0, turn: 0, trail: 0 });
  const light = { ...sky, planes: sky.planes.map((p) => p.map((v) => 2.2 * v)) };
  const frames = Array.from(
    { length: 16 },
    (_, i) => readSensor(light, { fullWell: 1800, readNoise: 3 }, i + 1).image,
  );
  return { kind: 'stack', name: `stack 16 × ${megapixels(width, height)} MP`, frames };
}

const megapixels = (w: number, h: number): string => ((w * h) / 1e6).toFixed(1).replace('.0', '');

function shoot(
  scene: SceneView,
  width: number,
  height: number,
  lens: Partial<typeof PLAIN_LENS>,
  stand: { yaw: number; pitch: number },
  seed: number,
): EncodedImage {
  return shootView(scene, {
    width,
    height,
    lens: { ...PLAIN_LENS, ...lens },
    stand: { ...stand, roll: 0 },
    seconds: 0.8,
    iso: 100,
    seed: seed + 1,
  }).image;
}

interface Timing {
  readonly fit: number;
  readonly merge: number;
}

async function marsh({ kind, frames }: KindSet): Promise<Timing> {
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url), WORKERS);
  const inputs = frames.map((image): SetFrame => ({ levels: imageLevels(image), facts: {}, stops: 0 }));
  const order = frames.map((_, i) => i);
  const middle = frames.length >> 1;
  const once = async (): Promise<Timing> => {
    const start = performance.now();
    const fit = await fitSet(pool, kind satisfies SetKind, inputs, order, middle, { motion: 'auto' });
    const fitted = performance.now();
    const used = inputs.map((f, i) => ({
      name: String(i),
      levels: f.levels,
      matrix: fit.registrations[i].matrix,
      stops: 0,
      scale: fit.registrations[i].scale,
    }));
    await mergeSet(pool, kind, used, middle, PLAIN_WISH, fit.panorama);
    return { fit: fitted - start, merge: performance.now() - fitted };
  };
  await once();
  const runs: Timing[] = [];
  for (let k = 0; k < RUNS; k++) runs.push(await once());
  pool.close();
  return runs.reduce((best, r) => (r.fit + r.merge < best.fit + best.merge ? r : best));
}

function native({ kind, frames }: KindSet): Timing | undefined {
  if (!existsSync(PYTHON)) return undefined;
  const folder = mkdtempSync(join(tmpdir(), 'marsh-kinds-'));
  try {
    frames.forEach((image, i) => writeFileSync(join(folder, `${i}.rgb`), image.data));
    const { width, height } = frames[0];
    const args = [
      'benchmarks/nativeKinds.py',
      folder,
      kind,
      ...[frames.length, width, height, RUNS].map(String),
    ];
    const printed = execFileSync(PYTHON, args, { stdio: ['ignore', 'pipe', 'ignore'] });
    return JSON.parse(printed.toString()) as Timing;
  } catch {
    return undefined;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const ms = (v: number): string => v.toFixed(0);

console.log('\n## Other kinds, fit + merge\n');
console.log('| set | Marsh, ms (fit, merge) | native OpenCV and NumPy, ms (fit, merge) | native / Marsh |');
console.log('| --- | ---: | ---: | ---: |');
for (const make of [
  () => panoramaSet(1000, 1500),
  () => panoramaSet(2000, 3000),
  () => focusSet(3000, 2000),
  () => stackSet(3000, 2000),
]) {
  const set = make();
  const own = await marsh(set);
  const peer = native(set);
  const total = own.fit + own.merge;
  const other = peer && peer.fit + peer.merge;
  console.log(
    `| ${set.name} | ${ms(total)} (${ms(own.fit)}, ${ms(own.merge)}) | ${peer ? `${ms(peer.fit + peer.merge)} (${ms(peer.fit)}, ${ms(peer.merge)})` : '—'} | ${other ? `${(other / total).toFixed(2)} ×` : '—'} |`,
  );
}
console.log(`\nPeak memory of the whole run: ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB.`);
