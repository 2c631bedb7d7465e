import { type Told } from '@/core/ground/belong';

/** how wide moon and sun are seen, degrees (31′, mean of either; Meeus, *Astronomical Algorithms*, chapter 55) */
const MOON = 0.53;

const metres = (m: number): string => (m < 20 ? m.toFixed(1) : Math.round(m).toString());

/** Where a light comes from, in words: seen from above, against the way the camera looks. */
const from360 = (degrees: number): string => {
  const side = degrees < 0 ? 'left' : 'right';
  const by = Math.abs(Math.round(degrees));
  return by < 5 ? 'ahead' : by > 175 ? 'behind you' : `${by}° ${side}`;
};

/** Words of the Ground station. */
export const GROUND_TEXT = {
  name: 'Ground',
  none: 'Nothing stands in the picture’s space yet. Lay the ground, or let a plate belong: add one under Layers first.',
  asTheyCame: (count: number) => `${count} as ${count === 1 ? 'it' : 'they'} came`,
  nothing: 'nothing put in',
  plates: 'What is put in',
  belong: 'Make it belong',
  again: 'Make it belong anew',
  lays: 'lies there as it came',
  air: 'its foot is above the horizon',
  stands: (distance: number, tall: number) => `${metres(distance)} m away, ${tall.toFixed(2)} m tall`,
  sky: (degrees: number) =>
    `in the sky, ${degrees.toFixed(degrees < 10 ? 2 : 0)}° across, ${(degrees / MOON).toFixed(1)} × the real moon`,
  belongs: 'belongs',
  off: {
    'ground.foot': 'does not stand on the ground',
    'ground.opacity': 'is seen through',
    'ground.light': 'is lit from elsewhere',
    'ground.shadow': 'has no shadow',
  } as Readonly<Record<string, string>>,
  mirror: 'Mirror it',
  mends: {
    light: 'Take all of the light',
    shadow: 'Give it its shadow',
    opacity: 'Make it opaque',
  },
  told: 'How this was told',
  how: ({ how, sure, why }: Told) =>
    how === 'given'
      ? 'as it is set here'
      : `${how}, ${Math.round(100 * sure)} % sure${why ? `: ${why}` : ''}`,
  facts: {
    plateFoot: 'Its foot',
    focalPx: 'Focal length',
    principal: 'Optical axis',
    horizonRow: 'Horizon',
    cameraHeight: 'Eye above ground',
    distance: 'Distance',
    light: 'Light of the picture',
    plateLight: 'Light of the plate',
  } as Readonly<Record<string, string>>,
  space: 'Space',
  noSpace:
    'Where the ground is, is not known yet. It is laid by the straight lines of the picture; where these say nothing, with the horizon in the middle, to be pulled to its place.',
  lay: 'Lay the ground',
  horizon: 'Horizon',
  roll: 'Leans',
  leans: (degrees: number) =>
    Math.abs(degrees) < 0.05 ? 'level' : `${Math.abs(degrees).toFixed(1)}° ${degrees > 0 ? 'right' : 'left'}`,
  eye: 'Eye height',
  focal: 'Focal length',
  fromTop: (share: number) => `${(100 * share).toFixed(1)} %`,
  metres: (m: number) => `${m < 10 ? m.toFixed(2) : m.toFixed(1)} m`,
  millimetres: (f: number) => `${Math.round(36 * f)} mm`,
  spaceHint: 'The horizon is counted from the top. Focal lengths are those of a frame 36 mm wide.',
  findLines: 'Find its lines',
  drawLine: 'Draw a line',
  drawLineHint:
    'Draw along something that stands, or along an edge that runs away over level ground. Two of either tell the camera, in the place of those that are found.',
  leaveLines: (count: number) => `Without the ${count} drawn`,
  upright: 'Upright and level',
  uprighted: 'Upright and level, by the ground',
  byLines: (uprights: number, levels: number, told: readonly string[]) =>
    `Told by ${uprights} upright and ${levels} level ${levels === 1 ? 'line' : 'lines'}${told.length > 0 ? `: ${told.join(', ')}` : ''}.`,
  offHorizon: (share: number) => `horizon ±${(100 * share).toFixed(1)} %`,
  offRoll: (degrees: number) => `leaning ±${degrees.toFixed(2)}°`,
  offFocal: (share: number) => `focal length ±${(100 * share).toFixed(0)} %`,
  pull: 'Pull on the picture',
  pullHint: 'Pull the horizon, the foot of a plate, or the end of its shadow: the sun follows.',
  yardstick: 'Draw a yardstick',
  yardstickHint: 'Draw along something upright, from its foot to its top.',
  yardsticks: 'Yardsticks',
  tall: (k: number) => `Yardstick ${k}`,
  drewYardstick: 'Drew a yardstick',
  leftYardstick: (k: number) => `Take yardstick ${k} away`,
  nowhere: 'above the horizon',
  scaled: 'Eye height by a yardstick',
  light: 'Light',
  scene: 'the picture’s',
  own: (name: string) => `${name}’s own`,
  unlit:
    'Nothing is known of the picture’s light yet: plates keep their own, half the way to the lightness about them, without a shadow. Turn the sun to where it is, or pull the end of a shadow.',
  sunFrom: 'Sun from',
  sunUp: 'Sun’s height',
  from360,
  strength: 'Sun over sky',
  stops: (ev: number) => `${ev.toFixed(1)} EV`,
  pair: 'In sun and in shade',
  pairHint: 'Press a place in the sun, then one in the shade of the same ground.',
  takeSun: 'No sun',
  tookSun: 'Took the sun away',
  airTitle: 'Air',
  noAir: 'The air is clear.',
  lost: 'Lost in 100 m',
  percent: (v: number) => `${Math.round(100 * v)} %`,
  hazier: 'Air',
  pairOfAir: 'Near and far',
  pairOfAirHint: 'Press a near place on the ground, then a far one of the same material.',
  clear: 'Clear air',
  cleared: 'Cleared the air',
  reading: 'Reading the two places',
  // of one plate
  standing: (name: string) => `How ${name} stands`,
  relight: 'Into this light',
  shadow: 'Its shadow',
  mirrorImage: 'Mirror image',
  height: 'Its height',
  resized: (name: string) => `Gave ${name} its height`,
  inWater: 'In water',
  lift: 'Lift it off the ground',
  away: (m: number) =>
    `Its foot is ${metres(m)} m away. It takes the picture’s light, and darkens or is mirrored in what it stands on.`,
  lies: 'Its foot lies above the horizon, so it is lit but casts nothing. Move it down, or lift it off the ground.',
  moved: (name: string) => `Moved the foot of ${name}`,
  turned: 'Turned the sun by a shadow',
  tray: 'From near to far',
  trayHint: 'A plate that is made to belong stands here at its distance.',
} as const;
