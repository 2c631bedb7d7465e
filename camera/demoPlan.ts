import { type BracketPlan } from './bracketShots';

/** The demo: the tide mill of Ferrow at dusk, five handheld frames. Everything here is invented. */
export const DEMO_TITLE = 'Ferrow tide mill, dusk';

/** How bright each light of the scene is turned for this dusk. */
export const DUSK = { sky: 0.16, sun: 0.03, lamp: 2.2 } as const;

/** Horizontal field of the rendered scene, degrees. */
export const SCENE_FIELD = 63;

export const DEMO_FRAME = { width: 1980, height: 1320 } as const;

export const DEMO_BRACKET: BracketPlan = {
  stops: [0, -2, 2, -4, 4],
  seconds: 1 / 60,
  aperture: 2.8,
  iso: 400,
  focalLength: 24,
  taken: '2026-10-03T18:52:07.120',
  camera: 'Marsh stand-in camera (simulation)',
  shake: 0.22,
  turn: 0.28,
  seed: 11,
};

/** Sensor signal of the middle frame for scene radiance 1. */
export const DEMO_GAIN = 0.9;
