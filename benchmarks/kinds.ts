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
import { demoScenes } from '@/scripts/sceneLights';
import { benchSet } from './frames';

const RUNS = 2;
const PYTHON = '/usr/bin/python3';

interface KindSet {
  readonly kind: SetKind;
  readonly name: string;
  readonly frames: readonly EncodedImage[];
  /** of a bracket */
  readonly stops?: readonly number[];
  /** the best of so many counts, after one that does not when there are several */
  readonly runs: number;
}

function bracketSet(width: number, height: number): KindSet {
  const { images, stops } = benchSet(width, height);
  const runs = width > 4000 ? 1 : RUNS;
  return {
    kind: 'bracket',
    name: `bracket 5 × ${megapixels(width, height)} MP`,
    frames: images,
    stops,
    runs,
  };
}

const scenes = demoScenes('./');
const MIX = { sky: 0.2, sun: 0.05, lamp: 2 };

function focusSet(width: number, height: number): KindSet {
  const scene = scenes.scene('mill', MIX);
  const frames = [3, 4, 5.5, 8, 13, 30].map((focus, i) =>
    shoot(scene, width, height, { focalLength: 50, focus, breathing: 0.06 }, { yaw: -6, pitch: -7 }, i),
  );
  return { kind: 'focus', name: `focus 6 × ${megapixels(width, height)} MP`, frames, runs: RUNS };
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
  return { kind: 'panorama', name: `panorama 7 × ${megapixels(width, height)} MP`, frames, runs: RUNS };
}

function stackSet(width: number, height: number): KindSet {
  const sky = nightSky(FERROW_SKY, { width, height, dx: 0, dy: 0, turn: 0, trail: 0 });
  const light = { ...sky, planes: sky.planes.map((p) => p.map((v) => 2.2 * v)) };
  const frames = Array.from(
    { length: 16 },
    (_, i) => readSensor(light, { fullWell: 1800, readNoise: 3 }, i + 1).image,
  );
  return { kind: 'stack', name: `stack 16 × ${megapixels(width, height)} MP`, frames, runs: RUNS };
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

interface Measured {
  readonly fit: number;
  readonly merge: number;
  readonly peakMb: number;
}

/** The same raw files for Marsh and for its peer, each in a process of its own. */
function measured({ kind, frames, stops = [], runs }: KindSet): { own: Measured; peer?: Measured } {
  const folder = mkdtempSync(join(tmpdir(), 'marsh-kinds-'));
  try {
    frames.forEach((image, i) => writeFileSync(join(folder, `${i}.rgb`), image.data));
    const { width, height } = frames[0];
    const args = [folder, kind, ...[frames.length, width, height, runs, ...stops].map(String)];
    const ask = (program: string, script: string): Measured =>
      JSON.parse(
        execFileSync(program, [script, ...args], {
          stdio: ['ignore', 'pipe', 'ignore'],
          // as the command line runs (cli/marsh.mjs)
          env: { ...process.env, MALLOC_MMAP_THRESHOLD_: String(2 ** 20) },
        }).toString(),
      ) as Measured;
    const own = ask(process.execPath, 'dist/benchmarkSet.mjs');
    if (!existsSync(PYTHON)) return { own };
    try {
      return { own, peer: ask(PYTHON, 'benchmarks/nativeKinds.py') };
    } catch {
      return { own };
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const ms = (v: number): string => v.toFixed(0);

const row = (m: Measured | undefined): string =>
  m ? `${ms(m.fit + m.merge)} (${ms(m.fit)}, ${ms(m.merge)}) | ${ms(m.peakMb)}` : '— | —';

console.log('\n## Every kind, fit + merge\n');
console.log(
  '| set | Marsh, ms (fit, merge) | peak, MB | native OpenCV and NumPy, ms (fit, merge) | peak, MB | native / Marsh |',
);
console.log('| --- | ---: | ---: | ---: | ---: | ---: |');
for (const make of [
  () => bracketSet(3000, 2000),
  () => bracketSet(6000, 4000),
  () => panoramaSet(1000, 1500),
  () => panoramaSet(2000, 3000),
  () => focusSet(3000, 2000),
  () => stackSet(3000, 2000),
]) {
  const set = make();
  const { own, peer } = measured(set);
  const ratio = peer ? `${((peer.fit + peer.merge) / (own.fit + own.merge)).toFixed(2)} ×` : '—';
  console.log(`| ${set.name} | ${row(own)} | ${row(peer)} | ${ratio} |`);
}
