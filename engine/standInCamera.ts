import { linearCodes } from '@/camera/developSignal';
import { type Plate, withPlate } from '@/camera/placePlate';
import { type PlateName, plateOf, PLATES } from '@/camera/plates';
import { readLight } from '@/camera/readLight';
import { depthPass, distancesOf, lightPasses, type LightMix, type SceneName, sceneOf } from '@/camera/scenes';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { type StandInShot } from '@/camera/standIn';
import { lightWarden } from '@/camera/warden';
import { MILL_POOL, waterMask, withRipples } from '@/camera/water';
import { encodeTiff } from '@/core/codecs/write/encodeTiff';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { type Platform } from './platform';

/** Reads the strips of a rendered pass. */
export type SceneReader = (pass: string) => Promise<readonly Uint8Array[]>;

const QUALITY = 95;

/** A scene as its lights are turned, and who was seen in it. */
interface HeldScene {
  readonly key: string;
  readonly scene: Promise<SceneView>;
  /** where the pool is, once it has moved */
  water?: Uint8Array;
  readonly wardens: Map<PlateName, Promise<Plate>>;
}

/** The stand-in camera of one worker; it keeps the scene it last shot, since reading one takes longer than a shot. */
export function standInCamera(platform: Platform, read: SceneReader) {
  let held: HeldScene | undefined;
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
    if (held?.key !== key) held = { key, scene: readScene(scene, mix, read), wardens: new Map() };
    const taken = held;
    const { wardens } = taken;
    const still = await taken.scene;
    let seen = still;
    if (motion) {
      const { pose, placing } = motion.warden;
      let warden = wardens.get(pose);
      if (!warden) wardens.set(pose, (warden = readWarden(pose, mix, read)));
      const water = (taken.water ??= waterMask(still, MILL_POOL));
      seen = withPlate(withRipples(still, water, motion.from, shot.seconds), await warden, placing);
    }
    const { image, signal } = shootView(seen, shot);
    const metadata = { facts, disclosed: false };
    const bytes = linear
      ? encodeTiff(linearCodes(signal), metadata, 'linear')
      : await encodeJpeg(image, QUALITY, platform.encodeJpeg, metadata, 'baseline');
    return { file, bytes };
  };
}

async function readWarden(pose: PlateName, mix: LightMix, read: SceneReader): Promise<Plate> {
  return lightWarden(plateOf(readLight(await read(`plate.${pose}`)), PLATES[pose]), mix);
}

async function readScene(name: SceneName, mix: LightMix, read: SceneReader): Promise<SceneView> {
  const lights = await Promise.all(
    lightPasses(name, mix).map(async (pass) => [pass, readLight(await read(pass))] as const),
  );
  const depth = readLight(await read(depthPass(name)));
  return sceneOf(name, mix, new Map(lights), distancesOf(name, depth));
}
