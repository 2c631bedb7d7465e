import { type MeasuredFrame } from '@/core/capture/frameFindings';
import { NO_ADJUST } from '@/core/match/adjust';
import { PLAIN_MASK } from '@/core/mask/mask';
import { UNFINISHED } from '@/core/view/beforeScene';
import { type SceneLayer, type ViewScene } from '@/core/view/viewScene';

/** What every scene has: nothing matched, nothing finished. */
export const PLAIN_SCENE = {
  match: { set: NO_ADJUST, whole: NO_ADJUST },
  finish: UNFINISHED,
} as const satisfies Partial<ViewScene>;

/** The merged picture as the only layer, shown everywhere. */
export const MERGE_LAYER: SceneLayer = {
  id: 'm',
  source: 'merge',
  opacity: 1,
  blend: 'normal',
  stops: 0,
  adjust: NO_ADJUST,
  mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
};

/** A frame as findings see it. */
export function measuredFrame(name: string, change: Partial<MeasuredFrame> = {}): MeasuredFrame {
  return {
    name,
    width: 600,
    height: 400,
    stops: 0,
    stopsSource: 'exif',
    clipped: { light: 0, dark: 0 },
    facts: {},
    measures: {},
    ...change,
  };
}
