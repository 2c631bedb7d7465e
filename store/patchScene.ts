import { NO_ADJUST } from '@/core/match/adjust';
import { type ViewScene } from '@/core/view/viewScene';
import { type AdjustTarget } from './edits';

/** The scene as the adjustment of a target finds it: without that adjustment and all that comes after it. */
export function patchScene(scene: ViewScene, target: AdjustTarget): ViewScene {
  const unmatched = { ...scene.match, whole: NO_ADJUST };
  if (target.kind === 'whole') return { ...scene, match: unmatched };
  if (target.kind === 'set')
    return {
      ...scene,
      match: { set: NO_ADJUST, whole: NO_ADJUST },
      layers: scene.layers.map((l) => ({ ...l, adjust: NO_ADJUST })),
    };
  const at = scene.layers.findIndex((l) => l.id === target.id);
  const layers = scene.layers
    .slice(0, at + 1)
    .map((l) => (l.id === target.id ? { ...l, adjust: NO_ADJUST } : l));
  return { ...scene, match: unmatched, layers };
}
