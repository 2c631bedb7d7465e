import { cropOf } from '@/core/recipe/cropOf';
import { remember } from './remember';

/** {@link cropOf}, made anew only when it can have changed: searching it takes longer than a slider may. */
export const cropInForce = remember(cropOf, ({ fits, frames, set, finish, panorama }) => [
  fits,
  frames,
  set.reference,
  set.motion,
  set.region,
  set.kind,
  set.other.projection,
  set.other.border,
  panorama,
  finish.ratio,
  finish.upright,
  finish.crop,
  finish.straighten,
]);
