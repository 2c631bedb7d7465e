import { type LightMix } from '@/camera/demoSets';
import { mixLights, readDistance } from '@/camera/mixLights';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { type StandInShot, type StandInView } from '@/camera/standIn';
import { SCENE_FIELD } from '@/camera/demoPlan';
import { encodePicture } from '@/core/codecs/write/encodePicture';
import { type Platform } from './platform';

/** Reads the strips of a rendered pass. */
export type SceneReader = (pass: string) => Promise<readonly Uint8Array[]>;

const QUALITY = 93;

/** The stand-in camera of one worker; it keeps the scene it last shot, since reading one takes longer than a shot. */
export function standInCamera(platform: Platform, read: SceneReader) {
  let held: { key: string; scene: Promise<SceneView> } | undefined;
  return async ({
    file,
    view,
    mix,
    shot,
    facts,
  }: StandInShot): Promise<{ file: string; bytes: Uint8Array }> => {
    const key = view === 'marsh' ? view : `${view} ${Object.values(mix).join(' ')}`;
    if (held?.key !== key) held = { key, scene: sceneOf(view, mix, read) };
    const { image } = shootView(await held.scene, shot);
    const metadata = { facts, disclosed: false };
    return { file, bytes: await encodePicture(image, 'jpeg', platform.encodeJpeg, QUALITY, metadata) };
  };
}

async function sceneOf(view: StandInView, mix: LightMix, read: SceneReader): Promise<SceneView> {
  if (view === 'marsh')
    return {
      light: mixLights([{ strips: await read('round.all'), amount: 1 }]),
      distance: readDistance(await read('round.z')),
      field: { kind: 'round', across: 200, down: 60 },
    };
  const wanted = (['sky', 'sun', 'lamp'] as const).filter((pass) => mix[pass] > 0);
  const lights = await Promise.all(
    wanted.map(async (pass) => ({ strips: await read(`mill.${pass}`), amount: mix[pass] })),
  );
  return {
    light: mixLights(lights),
    distance: readDistance(await read('mill.z')),
    field: { kind: 'flat', across: SCENE_FIELD },
  };
}
