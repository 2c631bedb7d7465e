// Shoots the demo's frames into demo/frames/ with the project's own camera.
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { bracketShots } from '@/camera/bracketShots';
import { DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DEMO_TITLE, DUSK, SCENE_FIELD } from '@/camera/demoPlan';
import { mixLights } from '@/camera/mixLights';
import { shootFrame } from '@/camera/shootBracket';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { nodePlatform } from '@/engine/nodePlatform';
import { sceneLights } from './sceneLights';

const JPEG_QUALITY = 93;

/** @param root folder of the project, with a slash at the end */
export async function shootDemo(root: string, say: (line: string) => void): Promise<void> {
  const folder = `${root}demo/frames`;
  const plan = JSON.stringify({ DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DUSK, DEMO_TITLE });
  if (existsSync(`${folder}/plan.json`) && readFileSync(`${folder}/plan.json`, 'utf8') === plan) return;
  say('shooting the demo frames');
  const unfinished = `${root}demo/shooting`;
  rmSync(unfinished, { recursive: true, force: true });
  mkdirSync(unfinished, { recursive: true });
  const scene = mixLights(sceneLights(root));
  const { encodeJpeg: encode } = nodePlatform();
  const shots = bracketShots(DEMO_BRACKET);
  for (const [i, shot] of shots.entries()) {
    const { image } = shootFrame(scene, shot, i, {
      ...DEMO_FRAME,
      sceneField: SCENE_FIELD,
      gain: DEMO_GAIN,
      seed: DEMO_BRACKET.seed,
    });
    const jpeg = await encodeJpeg(image, JPEG_QUALITY, encode);
    writeFileSync(`${unfinished}/${shot.file}`, writeExif(jpeg, shot.facts));
  }
  writeFileSync(
    `${unfinished}/manifest.json`,
    JSON.stringify({ title: DEMO_TITLE, files: shots.map((s) => s.file) }),
  );
  writeFileSync(`${unfinished}/plan.json`, plan);
  rmSync(folder, { recursive: true, force: true });
  renameSync(unfinished, folder);
}
