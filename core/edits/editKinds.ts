import { chart } from './chart/chart';
import { deblur } from './deblur/deblur';
import { detail } from './detail/detail';
import { exposure } from './exposure/exposure';
import { glow } from './glow/glow';
import { grain } from './grain/grain';
import { hues } from './hues/hues';
import { match } from './match/match';
import { neutral } from './neutral/neutral';
import { noise } from './noise/noise';
import { overTime } from './overTime/overTime';
import { repair } from './repair/repair';
import { saturation } from './saturation/saturation';
import { sharpen } from './sharpen/sharpen';
import { soften } from './soften/soften';
import { tint } from './tint/tint';
import { toneMap } from './toneMap/toneMap';
import { veil } from './veil/veil';
import { vignette } from './vignette/vignette';
import { zones } from './zones/zones';

/** Every kind of edit; a new one is a folder beside these and a line here. */
export const EDIT_KINDS = {
  repair,
  overTime,
  chart,
  neutral,
  exposure,
  toneMap,
  match,
  zones,
  saturation,
  hues,
  noise,
  detail,
  deblur,
  soften,
  veil,
  sharpen,
  grain,
  tint,
  glow,
  vignette,
} as const;

export type EditKindName = keyof typeof EDIT_KINDS;

/** The settings of each kind. */
export type EditSettings = { readonly [K in EditKindName]: (typeof EDIT_KINDS)[K]['plain'] };
