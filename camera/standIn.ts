import { normalSource, randomSource } from '@/core/raster/random';
import { fieldOfView, type Lens, PLAIN_LENS } from './lens';
import { type Stand } from './lookThrough';
import { type LightMix, type SceneName } from './scenes';
import { factsOf, type ViewShot } from './shootView';
import { APART, type Warden, wardenAt } from './warden';
import { type CaptureFacts } from '@/core/capture/captureFacts';

/** What the stand-in camera can be pointed at, and what suits it. */
interface ViewFacts {
  readonly scene: SceneName;
  /** exposure at f/8, ISO 100 and the middle of the evening, seconds */
  readonly metered: number;
  /** what there is to focus on, metres */
  readonly nearest: number;
  readonly farthest: number;
  /** degrees that the scene was built for */
  readonly widest: number;
  /** shortest focal length whose field the scene fills, millimetres */
  readonly shortest: number;
  readonly lights: (bright: number, lamps: boolean) => LightMix;
}

/** The views of the stand-in camera. */
export const VIEWS = {
  mill: {
    scene: 'mill',
    metered: 0.55,
    nearest: 3,
    farthest: 40,
    widest: 62,
    shortest: 30,
    lights: (bright, lamps) => ({
      sky: 0.05 + 0.4 * bright,
      sun: 0.2 * bright * bright,
      lamp: lamps ? 2 : 0,
    }),
  },
  marsh: {
    scene: 'round',
    metered: 0.22,
    nearest: 3,
    farthest: 40,
    widest: 196,
    shortest: 30,
    lights: (bright, lamps) => ({
      sky: 0.06 + 0.6 * bright,
      sun: 1.375 * bright * bright,
      lamp: lamps ? 1.6 : 0,
    }),
  },
  table: {
    scene: 'mugs',
    metered: 0.5,
    nearest: 0.8,
    farthest: 1.15,
    widest: 35,
    shortest: 60,
    lights: (bright, lamps) => ({ window: 0.1 + bright, lamp: lamps ? 1 : 0 }),
  },
  samphire: {
    scene: 'samphire',
    metered: 0.4,
    nearest: 0.19,
    farthest: 0.36,
    widest: 32,
    shortest: 68,
    lights: (bright) => ({ sky: 0.15 + bright, sun: bright }),
  },
} as const satisfies Record<string, ViewFacts>;

export type StandInView = keyof typeof VIEWS;

/** What it is asked to shoot. */
export type StandInPlan = 'bracket' | 'focus' | 'panorama' | 'stack';

/** A mistake that is made on purpose, to be found again. */
export type StandInFault = 'none' | 'balance' | 'unsharp' | 'lens';

/** Everything that is set on the stand-in camera. */
export interface StandInWish {
  readonly view: StandInView;
  readonly plan: StandInPlan;
  readonly frames: number;
  /** steps of a bracket, EV */
  readonly spacing: number;
  /** exposures of each view of a panorama, `spacing` apart */
  readonly exposures: number;
  /** share of a frame that neighbours of a panorama share, 0…1 */
  readonly overlap: number;
  /** f-number */
  readonly aperture: number;
  /** millimetres, full frame */
  readonly focalLength: number;
  /** standard deviation of the hand, degrees; 0 for a tripod */
  readonly shake: number;
  /** metres by which the camera's turn misses its entrance pupil */
  readonly slide: number;
  /** 0 for evening light, 1 for dark */
  readonly hour: number;
  readonly lamps: boolean;
  /** the water moves and the warden walks by; the mill only */
  readonly moving: boolean;
  readonly fault: StandInFault;
  /** 16-bit linear TIFF instead of developed JPEG */
  readonly linear: boolean;
  readonly seed: number;
}

/** What the camera is set to when it is taken up. */
export const FIRST_WISH: StandInWish = {
  view: 'mill',
  plan: 'bracket',
  frames: 3,
  spacing: 2,
  exposures: 1,
  overlap: 0.35,
  aperture: 8,
  focalLength: 35,
  shake: 0.15,
  slide: 0,
  hour: 0.6,
  lamps: true,
  moving: false,
  fault: 'none',
  linear: false,
  seed: 1,
};

/** A frame of a plan, ready to be shot. */
export interface StandInShot {
  readonly file: string;
  readonly scene: SceneName;
  readonly mix: LightMix;
  readonly linear: boolean;
  /** who walks by, and the second at which the water is seen; absent where all stands still */
  readonly motion?: { readonly warden: Warden; readonly from: number };
  readonly shot: ViewShot;
  readonly facts: CaptureFacts;
}

const WIDTH = 1200;
const HEIGHT = 800;
const START = Date.parse('2026-10-04T18:00:00.000Z');
/** Turn between the frames of a panorama for an overlap, degrees. */
export function panoramaStep(focalLength: number, overlap: number): number {
  return fieldOfView(focalLength, PLAIN_LENS.sensorWidth) * (1 - overlap);
}

/** The shots of a plan. */
export function planStandIn(wish: StandInWish): StandInShot[] {
  const { plan, frames, view, seed } = wish;
  const normal = normalSource(randomSource(seed));
  const bright = 1 - wish.hour;
  const { scene, lights, metered: usual, nearest, farthest }: ViewFacts = VIEWS[view];
  const mix = lights(bright, wish.lamps);
  const metered =
    (usual * (wish.aperture / 8) ** 2 * 0.25) / (0.05 + (view === 'marsh' ? 0.5 : 0.4) * bright);
  const odd = frames >> 1;
  const exposures = plan === 'panorama' ? wish.exposures : 1;
  return Array.from({ length: frames * exposures }, (_, n): StandInShot => {
    const i = Math.floor(n / exposures);
    const along = i - (frames - 1) / 2;
    const steps = plan === 'bracket' ? along : (n % exposures) - (exposures - 1) / 2;
    const stops = steps * wish.spacing;
    const hand: Stand = {
      yaw:
        wish.shake * normal() +
        (plan === 'panorama' ? along * panoramaStep(wish.focalLength, wish.overlap) : 0),
      pitch: wish.shake * normal() - (plan === 'focus' && view === 'mill' ? 5 : 0),
      roll: wish.shake * normal(),
      ...(wish.slide > 0 ? { shift: [wish.slide * normal(), 0, wish.slide * normal()] as const } : {}),
    };
    const fault = n === odd ? wish.fault : 'none';
    const lens: Lens = {
      ...PLAIN_LENS,
      focalLength: wish.focalLength,
      aperture: fault === 'unsharp' ? 2 : wish.aperture,
      focus:
        plan === 'focus'
          ? nearest * (farthest / nearest) ** (frames > 1 ? i / (frames - 1) : 0)
          : fault === 'unsharp'
            ? 0.4 * nearest
            : resting(nearest, farthest),
      breathing: plan === 'focus' ? 0.06 : 0,
      distortion: fault === 'lens' ? -0.02 : 0,
      vignette: 0.6,
    };
    // an open aperture lets more in: the time makes up for it
    const seconds = metered * 2 ** stops * (lens.aperture / wish.aperture) ** 2;
    const shot: ViewShot = {
      width: WIDTH,
      height: HEIGHT,
      iso: plan === 'stack' ? 3200 : 100,
      lens,
      stand: hand,
      seconds: plan === 'stack' ? seconds / 32 : seconds,
      ...(fault === 'balance' ? { balance: [-0.3, 0.35] as const } : {}),
      seed: 100 * seed + n,
    };
    const taken = new Date(START + 60000 * seed + 2500 * n + 20000 * (exposures > 1 ? i : 0))
      .toISOString()
      .slice(0, 23);
    return {
      file: `stand-in-${plan}-${seed}-${String(n + 1).padStart(2, '0')}.${wish.linear ? 'tif' : 'jpg'}`,
      scene,
      linear: wish.linear,
      mix,
      ...(wish.moving && view === 'mill'
        ? { motion: { warden: wardenAt(n, shot.seconds), from: APART * n } }
        : {}),
      shot,
      facts: factsOf(shot, taken),
    };
  });
}

/** Where a lens is left when focus is not the point: far away outdoors, between near and far at hand. */
function resting(nearest: number, farthest: number): number {
  return farthest > 10 ? Infinity : (2 * nearest * farthest) / (nearest + farthest);
}

/** What will go wrong with a plan, each a sentence; empty when it is sound. */
export function planWarnings(wish: StandInWish): string[] {
  const { plan, frames } = wish;
  const says: string[] = [];
  const isBracketed = plan === 'bracket' || (plan === 'panorama' && wish.exposures > 1);
  if (isBracketed && wish.spacing > 3)
    says.push(
      `${wish.spacing} EV apart: tones between two frames are held well by neither. Stay at 2, 3 at most.`,
    );
  if (plan === 'panorama') {
    const field = fieldOfView(wish.focalLength, PLAIN_LENS.sensorWidth);
    const span = field + (frames - 1) * panoramaStep(wish.focalLength, wish.overlap);
    if (wish.overlap < 0.2)
      says.push(
        `${Math.round(100 * wish.overlap)} % overlap is little to match on: joins may fail. About 30 % is usual.`,
      );
    const { widest } = VIEWS[wish.view];
    if (span > widest)
      says.push(
        `The row spans ${Math.round(span)}°, and the scene was built for ${widest}°: its ends will be smeared.`,
      );
    if (wish.slide > 0.01)
      says.push(
        `The camera slides by ${Math.round(100 * wish.slide)} cm as it turns: near things shift against far ones.`,
      );
  }
  if (plan === 'focus') {
    // neighbouring focus distances leave a gap when their depths of field (circle of 0.03 mm) do not meet
    const { nearest, farthest } = VIEWS[wish.view];
    const ratio = (farthest / nearest) ** (1 / Math.max(1, frames - 1));
    const near = nearest * 1000;
    const reach = (wish.focalLength * wish.focalLength) / (wish.aperture * 0.03);
    if (near * ratio - near > (2 * near * near) / reach)
      says.push('The focus steps are wide for this aperture: places between them are sharp in no frame.');
  }
  if (wish.moving && wish.view === 'mill' && plan !== 'panorama')
    says.push(
      'The warden walks on from frame to frame, and a long exposure smears him: is he in the picture once?',
    );
  if (plan === 'stack' && wish.shake > 0.3)
    says.push('A stack is shot from a tripod: a hand this unsteady loses the border.');
  const odd = (frames >> 1) + 1;
  const planted: Readonly<Record<StandInFault, string | undefined>> = {
    none: undefined,
    balance: `Frame ${odd} gets another white balance on purpose. Which finding tells?`,
    unsharp: `Frame ${odd} is focused too near on purpose. Which finding tells?`,
    lens: `Frame ${odd} bends by another lens correction on purpose. Which finding tells?`,
  };
  const own = planted[wish.fault];
  return own ? [...says, own] : says;
}
