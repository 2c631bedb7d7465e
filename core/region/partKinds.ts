import { colour } from './colour/colour';
import { distance } from './distance/distance';
import { ellipse } from './ellipse/ellipse';
import { gradient } from './gradient/gradient';
import { motion } from './motion/motion';
import { named } from './named/named';
import { noise } from './noise/noise';
import { parted } from './parted/parted';
import { polygon } from './polygon/polygon';
import { same } from './same/same';
import { saturation } from './saturation/saturation';
import { sharpness } from './sharpness/sharpness';
import { strokes } from './strokes/strokes';
import { thing } from './thing/thing';
import { tone } from './tone/tone';

/** Every kind of part; a new one is a folder beside these and a line here. */
export const PART_KINDS = {
  strokes,
  thing,
  parted,
  tone,
  colour,
  same,
  saturation,
  distance,
  sharpness,
  noise,
  motion,
  gradient,
  ellipse,
  polygon,
  named,
} as const;

export type PartKindName = keyof typeof PART_KINDS;

/** The settings of each kind. */
export type PartSettings = { readonly [K in PartKindName]: (typeof PART_KINDS)[K]['plain'] };
