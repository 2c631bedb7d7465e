import { EVENING, type MomentWishes } from './chooseMoments';

/** What is looked for in the moments of a set. */
export type MomentTaste = 'evening' | 'calm' | 'smooth' | 'lively' | 'sharp';

/** Each taste as wishes. */
export const MOMENT_TASTES: Readonly<Record<MomentTaste, MomentWishes>> = {
  evening: EVENING,
  calm: { calm: 2, unclipped: 1 },
  smooth: { smooth: 2, unclipped: 0.7 },
  lively: { lively: 2, unclipped: 0.7 },
  sharp: { sharp: 2, unclipped: 0.5 },
};
