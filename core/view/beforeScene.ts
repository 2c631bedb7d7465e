import { NO_ADJUST } from '../match/adjust';
import { IDENTITY } from '../raster/matrix3';
import { type SceneFinish, type ViewScene } from './viewScene';

/** Nothing done at last. */
export const UNFINISHED: SceneFinish = {
  exposure: 0,
  straighten: IDENTITY,
  noise: 0,
  sharpen: { radius: 1, amount: 0, edge: 0 },
};

/** Steps whose work can be left out, in working order. */
export type LeftOut = 'layers' | 'match' | 'finish';

/**
 * The scene as it was before a step: what came later is left out too. The straightening stays where the finished grid is shown, so that
 * both lie on each other.
 */
export function beforeScene(scene: ViewScene, step: LeftOut, straightened: boolean): ViewScene {
  const finish = straightened ? { ...UNFINISHED, straighten: scene.finish.straighten } : UNFINISHED;
  if (step === 'finish') return { ...scene, finish };
  const layers = scene.layers.map((l) => ({ ...l, adjust: NO_ADJUST }));
  const match = { set: NO_ADJUST, whole: NO_ADJUST };
  if (step === 'match') return { ...scene, layers, match, finish };
  return { ...scene, layers: layers.filter((l) => l.source === 'merge'), match, finish };
}
