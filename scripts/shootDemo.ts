// Shoots the demo's frames into demo/frames/ with the project's own camera, two sets at a time.
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DUSK } from '@/camera/demoPlan';
import { DEMO_SETS, type DemoScenes, type DemoSet } from '@/camera/demoSets';
import { writeExif } from '@/camera/writeExif';
import { encodeAlphaPng } from '@/core/codecs/write/encodePng';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { nodePlatform } from '@/engine/nodePlatform';
import { demoScenes } from './sceneLights';

const JPEG_QUALITY = 95;
/** raised whenever the camera or the scene gives other pixels for the same plan */
const EDITION = 15;
const WORKERS = 2;

/** Everything that the frames of a set depend on, the code of its plan included. */
const planOf = ({ shoot, ...told }: DemoSet): string =>
  JSON.stringify({ EDITION, DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DUSK, ...told, shoot: shoot.toString() });

interface ShotSet {
  readonly plan: string;
  readonly files: readonly string[];
}

/** Shoots one set into a folder. */
async function shootSet(scenes: DemoScenes, folder: string, set: DemoSet): Promise<ShotSet> {
  const { encodeJpeg: encode } = nodePlatform();
  const files: string[] = [];
  for (const { file, image, alpha, facts } of set.shoot(scenes)) {
    const bytes = alpha
      ? encodeAlphaPng(withAlpha(image, alpha), image.width, image.height)
      : writeExif(await encodeJpeg(image, JPEG_QUALITY, encode, undefined, 'baseline'), facts);
    writeFileSync(`${folder}/${file}`, bytes);
    files.push(file);
  }
  return { plan: planOf(set), files };
}

/** R G B A, 8 bit. */
function withAlpha({ data }: EncodedImage, alpha: Uint8Array): Uint8Array {
  const out = new Uint8Array(4 * alpha.length);
  alpha.forEach((a, i) => out.set([data[3 * i], data[3 * i + 1], data[3 * i + 2], a], 4 * i));
  return out;
}

/** What the folder holds already, by set. */
function shotBefore(folder: string): Record<string, ShotSet> {
  try {
    return JSON.parse(readFileSync(`${folder}/plan.json`, 'utf8')) as Record<string, ShotSet>;
  } catch {
    return {};
  }
}

/** @param root folder of the project, with a slash at the end */
export async function shootDemo(root: string, say: (line: string) => void): Promise<void> {
  const folder = `${root}demo/frames`;
  const before = shotBefore(folder);
  const stale = DEMO_SETS.filter((s) => before[s.id]?.plan !== planOf(s));
  if (stale.length === 0 && existsSync(`${folder}/manifest.json`)) return;
  say(`shooting ${stale.length} demo sets`);
  const unfinished = `${root}demo/shooting`;
  rmSync(unfinished, { recursive: true, force: true });
  mkdirSync(unfinished, { recursive: true });
  const shot: Record<string, ShotSet> = {};
  for (const { id } of DEMO_SETS.filter((s) => !stale.includes(s))) {
    for (const file of before[id].files) copyFileSync(`${folder}/${file}`, `${unfinished}/${file}`);
    shot[id] = before[id];
  }
  const waiting = stale.map((s) => s.id);
  const work = (): Promise<void> =>
    new Promise((done, fail) => {
      const worker = new Worker(new URL(import.meta.url), { workerData: { root, folder: unfinished } });
      const next = (): void => {
        const id = waiting.shift();
        if (id === undefined) void worker.terminate().then(() => done());
        else worker.postMessage(id);
      };
      worker.on('message', ({ id, set }: { id: string; set: ShotSet }) => {
        shot[id] = set;
        say(`shot ${DEMO_SETS.find((s) => s.id === id)?.title ?? id}`);
        next();
      });
      worker.on('error', fail);
      next();
    });
  await Promise.all(Array.from({ length: Math.min(WORKERS, waiting.length) }, work));
  const told = DEMO_SETS.map(({ id, title, about, task }) => ({
    id,
    title,
    about,
    task,
    files: shot[id].files,
  }));
  writeFileSync(`${unfinished}/manifest.json`, JSON.stringify({ sets: told }));
  writeFileSync(`${unfinished}/plan.json`, JSON.stringify(shot));
  rmSync(folder, { recursive: true, force: true });
  renameSync(unfinished, folder);
}

if (!isMainThread) {
  const { root, folder } = workerData as { root: string; folder: string };
  const scenes = demoScenes(root);
  parentPort?.on('message', (id: string) => {
    const set = DEMO_SETS.find((s) => s.id === id);
    if (set) void shootSet(scenes, folder, set).then((made) => parentPort?.postMessage({ id, set: made }));
  });
}
