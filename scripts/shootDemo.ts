// Shoots the demo's frames into demo/frames/ with the project's own camera.
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { bracketShots } from '@/camera/bracketShots';
import { DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DEMO_TITLE, DUSK, SCENE_FIELD } from '@/camera/demoPlan';
import { DEMO_SETS, type DemoFrame, type DemoScenes } from '@/camera/demoSets';
import { shootFrame } from '@/camera/shootBracket';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { nodePlatform } from '@/engine/nodePlatform';
import { demoScenes } from './sceneLights';

const JPEG_QUALITY = 93;
/** raised whenever the camera or the scene gives other pixels for the same plan */
const EDITION = 2;

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

const BRACKET = {
  id: 'bracket',
  title: DEMO_TITLE,
  about: 'five handheld frames at dusk',
  task: 'Make one natural picture from lamps to reeds, without a ghost and without a halo.',
  shoot: shootBracket,
};

/** @param root folder of the project, with a slash at the end */
export async function shootDemo(root: string, say: (line: string) => void): Promise<void> {
  const folder = `${root}demo/frames`;
  const sets = [BRACKET, ...DEMO_SETS];
  const plan = JSON.stringify({ EDITION, DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DUSK, sets });
  if (existsSync(`${folder}/plan.json`) && readFileSync(`${folder}/plan.json`, 'utf8') === plan) return;
  const unfinished = `${root}demo/shooting`;
  rmSync(unfinished, { recursive: true, force: true });
  mkdirSync(unfinished, { recursive: true });
  const scenes = demoScenes(root);
  const { encodeJpeg: encode } = nodePlatform();
  const manifest: object[] = [];
  for (const [i, { id, title, about, task, shoot }] of sets.entries()) {
    say(`shooting demo set ${i + 1} of ${sets.length}: ${title}`);
    const files: string[] = [];
    for (const { file, image, facts } of shoot(scenes)) {
      const jpeg = await encodeJpeg(image, JPEG_QUALITY, encode);
      writeFileSync(`${unfinished}/${file}`, writeExif(jpeg, facts));
      files.push(file);
    }
    manifest.push({ id, title, about, task, files });
  }
  writeFileSync(`${unfinished}/manifest.json`, JSON.stringify({ sets: manifest }));
  writeFileSync(`${unfinished}/plan.json`, plan);
  rmSync(folder, { recursive: true, force: true });
  renameSync(unfinished, folder);
}
