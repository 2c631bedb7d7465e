import { linearCodes } from '@/camera/exposeFrame';
import { withPlate } from '@/camera/placePlate';
import { plateOf, PLATES } from '@/camera/plates';
import { readLight } from '@/camera/readLight';
import { depthPass, distancesOf, lightPasses, type LightMix, type SceneName, sceneOf } from '@/camera/scenes';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { type StandInShot } from '@/camera/standIn';
import { MILL_POOL, withRipples } from '@/camera/water';
import { encodeTiff } from '@/core/codecs/write/encodeTiff';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { type Platform } from './platform';

/** Reads the strips of a rendered pass. */
export type SceneReader = (pass: string) => Promise<readonly Uint8Array[]>;

const QUALITY = 93;

/** The stand-in camera of one worker; it keeps the scene it last shot, since reading one takes longer than a shot. */
export function standInCamera(platform: Platform, read: SceneReader) {
  let held: { key: string; scene: Promise<SceneView> } | undefined;
  return async ({
    file,
    scene,
    mix,
    shot,
    linear,
    motion,
    facts,
  }: StandInShot): Promise<{ file: string; bytes: Uint8Array }> => {
    const key = `${scene} ${JSON.stringify(mix)}`;
    if (held?.key !== key) held = { key, scene: readScene(scene, mix, read) };
    const still = await held.scene;
    const seen = motion ? await inMotion(still, motion, shot.seconds, read) : still;
    const { image, signal } = shootView(seen, shot);
    const metadata = { facts, disclosed: false };
    const bytes = linear
      ? encodeTiff(linearCodes(signal), metadata, 'linear')
      : await encodeJpeg(image, QUALITY, platform.encodeJpeg, metadata, 'baseline');
    return { file, bytes };
  };
}

/** The scene with its water moving and the warden walking by. */
async function inMotion(
  still: SceneView,
  { warden: { pose, placing }, from }: NonNullable<StandInShot['motion']>,
  seconds: number,
  read: SceneReader,
): Promise<SceneView> {
  const plate = plateOf(readLight(await read(`plate.${pose}`)), PLATES[pose]);
  return withPlate(withRipples(still, MILL_POOL, from, seconds), plate, placing);
}

async function readScene(name: SceneName, mix: LightMix, read: SceneReader): Promise<SceneView> {
  const lights = await Promise.all(
    lightPasses(name, mix).map(async (pass) => [pass, readLight(await read(pass))] as const),
  );
  const depth = readLight(await read(depthPass(name)));
  return sceneOf(name, mix, new Map(lights), distancesOf(name, depth));
}
