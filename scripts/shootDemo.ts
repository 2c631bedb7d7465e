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
import { bracketShots } from '@/camera/bracketShots';
import { DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DEMO_TITLE, DUSK, SCENE_FIELD } from '@/camera/demoPlan';
import { DEMO_SETS, type DemoFrame, type DemoScenes, type DemoSet } from '@/camera/demoSets';
import { shootFrame } from '@/camera/shootBracket';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { nodePlatform } from '@/engine/nodePlatform';
import { demoScenes } from './sceneLights';

const JPEG_QUALITY = 93;
/** raised whenever the camera or the scene gives other pixels for the same plan */
const EDITION = 4;
const WORKERS = 2;

/** The handheld bracket that the demo opens with. */
function shootBracket(scenes: DemoScenes): DemoFrame[] {
  const { light } = scenes.mill({ ...DUSK, stand: 0 });
  return bracketShots(DEMO_BRACKET).map((shot, i) => {
    const { image } = shootFrame(light, shot, i, {
      ...DEMO_FRAME,
      sceneField: SCENE_FIELD,
      gain: DEMO_GAIN,
      seed: DEMO_BRACKET.seed,
    });
    return { file: shot.file, image, facts: shot.facts };
  });
}

const SETS: readonly DemoSet[] = [
  {
    id: 'bracket',
    title: DEMO_TITLE,
    about: 'five handheld frames at dusk',
    task: 'Make one natural picture from lamps to reeds, without a ghost and without a halo.',
    shoot: shootBracket,
  },
  ...DEMO_SETS,
];

/** Everything that the frames of a set depend on, the code of its plan included. */
const planOf = ({ shoot, ...told }: DemoSet): string =>
  JSON.stringify({ EDITION, DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DUSK, ...told, shoot: shoot.toString() });

interface ShotSet {
  readonly plan: string;
  readonly files: readonly string[];
}

/** Shoots one set into a folder. */
async function shootSet(root: string, folder: string, set: DemoSet): Promise<ShotSet> {
  const { encodeJpeg: encode } = nodePlatform();
  const files: string[] = [];
  for (const { file, image, facts } of set.shoot(demoScenes(root))) {
    const jpeg = await encodeJpeg(image, JPEG_QUALITY, encode);
    writeFileSync(`${folder}/${file}`, writeExif(jpeg, facts));
    files.push(file);
  }
  return { plan: planOf(set), files };
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
  const stale = SETS.filter((s) => before[s.id]?.plan !== planOf(s));
  if (stale.length === 0 && existsSync(`${folder}/manifest.json`)) return;
  say(`shooting ${stale.length} demo sets`);
  const unfinished = `${root}demo/shooting`;
  rmSync(unfinished, { recursive: true, force: true });
  mkdirSync(unfinished, { recursive: true });
  const shot: Record<string, ShotSet> = {};
  for (const { id } of SETS.filter((s) => !stale.includes(s))) {
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
        say(`shot ${SETS.find((s) => s.id === id)?.title ?? id}`);
        next();
      });
      worker.on('error', fail);
      next();
    });
  await Promise.all(Array.from({ length: Math.min(WORKERS, waiting.length) }, work));
  const told = SETS.map(({ id, title, about, task }) => ({ id, title, about, task, files: shot[id].files }));
  writeFileSync(`${unfinished}/manifest.json`, JSON.stringify({ sets: told }));
  writeFileSync(`${unfinished}/plan.json`, JSON.stringify(shot));
  rmSync(folder, { recursive: true, force: true });
  renameSync(unfinished, folder);
}

if (!isMainThread) {
  const { root, folder } = workerData as { root: string; folder: string };
  parentPort?.on('message', (id: string) => {
    const set = SETS.find((s) => s.id === id);
    if (set) void shootSet(root, folder, set).then((made) => parentPort?.postMessage({ id, set: made }));
  });
}
