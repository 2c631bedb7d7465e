import { type MeasuredFrame } from '@/core/capture/frameFindings';
import { NO_ADJUST } from '@/core/match/adjust';
import { UNFINISHED } from '@/core/view/beforeScene';
import { type ViewScene } from '@/core/view/viewScene';

/** What every scene has: nothing matched, nothing finished. */
export const PLAIN_SCENE = {
  match: { set: NO_ADJUST, whole: NO_ADJUST },
  finish: UNFINISHED,
} as const satisfies Partial<ViewScene>;

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
