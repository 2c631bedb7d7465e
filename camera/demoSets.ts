import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { normalSource, randomSource } from '@/core/raster/random';
import { bracketShots } from './bracketShots';
import { DEMO_BRACKET, DEMO_FRAME, DEMO_GAIN, DEMO_TITLE, SCENE_FIELD } from './demoPlan';
import { developSignal } from './developSignal';
import { type Lens, PLAIN_LENS } from './lens';
import { FERROW_SKY, nightSky } from './nightSky';
import { type Stand } from './lookThrough';
import { type Plate, withPlate } from './placePlate';
import { developPlate, type PlateName } from './plates';
import { type LightMix, type SceneName } from './scenes';
import { readSensor } from './readSensor';
import { type SceneView, wholeLight } from './sceneView';
import { shootFrame } from './shootBracket';
import { factsOf, sensorAt, shootView, type ViewShot } from './shootView';
import { APART, wardenAt } from './warden';
import { MILL_POOL, waterMask, withRipples } from './water';

/** The rendered scenes and plates that the demo is shot from. */
export interface DemoScenes {
  readonly scene: (name: SceneName, mix: LightMix) => SceneView;
  readonly plate: (name: PlateName) => Plate;
}

/** One frame of a demo set. */
export interface DemoFrame {
  readonly file: string;
  readonly image: EncodedImage;
  /** of a cut-out, straight, 0…255 */
  readonly alpha?: Uint8Array;
  readonly facts: CaptureFacts;
}

/** A set of the demo with its small task; everything in it is invented. */
export interface DemoSet {
  readonly id: string;
  readonly title: string;
  readonly task: string;
  /** in one line, for its card */
  readonly about: string;
  readonly shoot: (scenes: DemoScenes) => DemoFrame[];
}

const DUSK: LightMix = { sky: 0.16, sun: 0.03, lamp: 2.2 };
/** the marsh all round, a little earlier */
const AFTERGLOW: LightMix = { sky: 0.3, sun: 0.22, lamp: 1.6 };
const EVENING = Date.parse('2026-10-03T18:20:00.000Z');
const clock = (seconds: number): string => new Date(EVENING + 1000 * seconds).toISOString().slice(0, 23);

const BASE: Pick<ViewShot, 'width' | 'height' | 'iso'> = { width: 1500, height: 1000, iso: 100 };
const lensOf = (focalLength: number, aperture: number, more: Partial<Lens> = {}): Lens => ({
  ...PLAIN_LENS,
  focalLength,
  aperture,
  ...more,
});

function frame(file: string, scene: SceneView, shot: ViewShot, taken: number): DemoFrame {
  return { file, image: shootView(scene, shot).image, facts: factsOf(shot, clock(taken)) };
}

const numbered = (name: string, i: number): string => `${name}-${String(i + 1).padStart(2, '0')}.jpg`;

/** Angles in steps around 0 with a hand's unsteadiness. */
function row(count: number, step: number, seed: number, along: 'yaw' | 'pitch'): Stand[] {
  const normal = normalSource(randomSource(seed));
  return Array.from({ length: count }, (_, i) => {
    const main = (i - (count - 1) / 2) * step + 0.5 * normal();
    const [cross, roll] = [0.5 * normal(), 0.5 * normal()];
    const shift = [0.006 * normal(), 0.004 * normal(), 0.005 * normal()] as const;
    return along === 'yaw'
      ? { yaw: main, pitch: cross, roll, shift }
      : { yaw: cross, pitch: -main, roll, shift };
  });
}

/** The sets of the demo, in the order of the shelf. */
export const DEMO_SETS: readonly DemoSet[] = [
  {
    id: 'bracket',
    title: DEMO_TITLE,
    about: 'five handheld frames at dusk',
    task: 'Make one natural picture from lamps to reeds, without a ghost of the walking warden and without a halo.',
    shoot: (scenes) => {
      const still = scenes.scene('mill', DUSK);
      const water = waterMask(still, MILL_POOL);
      return bracketShots(DEMO_BRACKET).map((shot, i) => {
        const seconds = shot.facts.seconds ?? 0;
        const rippled = withRipples(still, water, APART * i, seconds);
        const { pose, placing } = wardenAt(i, seconds);
        const light = wholeLight(withPlate(rippled, scenes.plate(pose), placing));
        const { image } = shootFrame(light, shot, i, {
          ...DEMO_FRAME,
          sceneField: SCENE_FIELD,
          gain: DEMO_GAIN,
          seed: DEMO_BRACKET.seed,
        });
        return { file: shot.file, image, facts: shot.facts };
      });
    },
  },
  {
    id: 'panorama',
    title: 'Ferrow marsh, all round',
    about: 'seven frames in one row',
    task: 'Make one wide picture with a level horizon. One frame has another white balance: is it evened out? Crop the blank border.',
    shoot: (scenes) => {
      const scene = scenes.scene('round', AFTERGLOW);
      return row(7, 21, 4, 'yaw').map((stand, i) =>
        frame(
          numbered('marsh', i),
          scene,
          {
            ...BASE,
            width: 720,
            height: 1000,
            lens: lensOf(45, 5.6, { vignette: 0.9 }),
            stand: { ...stand, yaw: stand.yaw - 4 },
            seconds: 1 / 4,
            // one frame was developed cooler than the rest
            ...(i === 5 ? { balance: [-0.22, 0.28] as const } : {}),
            seed: 210 + i,
          },
          3 * i,
        ),
      );
    },
  },
  {
    id: 'column',
    title: 'The mill from bank to ridge',
    about: 'four frames in one column',
    task: 'Join the four frames into one upright picture. Does the roof keep its width?',
    shoot: (scenes) => {
      const scene = scenes.scene('mill', DUSK);
      return row(4, 6.4, 9, 'pitch').map((stand, i) =>
        frame(
          numbered('column', i),
          scene,
          {
            ...BASE,
            width: 1080,
            height: 720,
            lens: lensOf(62, 4),
            stand: { ...stand, yaw: stand.yaw + 4, pitch: stand.pitch + 0.9 },
            seconds: 0.35,
            seed: 240 + i,
          },
          120 + 4 * i,
        ),
      );
    },
  },
  {
    id: 'focus',
    title: 'Sea lavender to the mill',
    about: 'six focus distances at f/8',
    task: 'Make one picture that is sharp from the lavender to the mill. One frame is enough for no part of it.',
    shoot: (scenes) => {
      const scene = scenes.scene('mill', { ...DUSK, sky: 0.22 });
      return [3, 4, 5.5, 8, 13, 30].map((focus, i) =>
        frame(
          numbered('lavender', i),
          scene,
          {
            ...BASE,
            lens: lensOf(50, 8, { focus, breathing: 0.09 }),
            stand: { yaw: -6, pitch: -7.5, roll: 0 },
            seconds: 1.1,
            seed: 270 + i,
          },
          300 + 5 * i,
        ),
      );
    },
  },
  {
    id: 'focus-two',
    title: 'Samphire, near and far',
    about: 'two focus distances from 25 cm',
    task: 'Two frames, one sharp on the near stems and one on those behind. Merge them, then look along the stems for a double outline: where is no frame sharp?',
    shoot: (scenes) => {
      const scene = scenes.scene('samphire', { sky: 0.6, sun: 0.55 });
      return [0.212, 0.262].map((focus, i) =>
        frame(
          numbered('samphire', i),
          scene,
          {
            ...BASE,
            lens: lensOf(68, 16, { focus, breathing: 0.05 }),
            stand: { yaw: 0, pitch: 0, roll: i === 0 ? 0 : 0.12 },
            seconds: 2,
            seed: 290 + i,
          },
          400 + 8 * i,
        ),
      );
    },
  },
  {
    id: 'moments',
    title: 'An evening at Ferrow',
    about: 'four frames over seventy minutes',
    task: 'Take the sky of one hour, the still water of the long exposure and the windows of another. The tripod slipped once: see under Fit which frame shows it.',
    shoot: (scenes) =>
      MOMENTS.map(({ mix, seconds, filter, aperture }, i) => {
        const scene = scenes.scene('mill', mix);
        return frame(
          numbered('evening', i),
          withRipples(scene, waterMask(scene, MILL_POOL), 1400 * i, seconds),
          {
            ...BASE,
            lens: lensOf(31, aperture),
            stand: i < 2 ? { yaw: 0, pitch: 0, roll: 0 } : { yaw: 0.32, pitch: -0.18, roll: 0.24 },
            seconds,
            filter,
            seed: 310 + i,
          },
          1000 + 1400 * i,
        );
      }),
  },
  {
    id: 'lamp',
    title: 'A lamp for the boardwalk',
    about: 'with the lamp and without it',
    task: 'Keep the light that the lamp throws on the boardwalk and leave the rest as it was. One frame was developed by another lens correction: does the fit say so?',
    shoot: (scenes) =>
      [0, 0.5].map((stand, i) =>
        frame(
          numbered('lamp', i),
          scenes.scene('mill', { ...DUSK, lamp: 1.6, stand }),
          {
            ...BASE,
            lens: lensOf(33, 5.6, { distortion: i === 0 ? 0 : -0.008 }),
            stand: { yaw: -2, pitch: 0, roll: 0 },
            seconds: 0.35,
            seed: 330 + i,
          },
          7200 + 150 * i,
        ),
      ),
  },
  {
    id: 'swap',
    title: 'The warden’s lantern',
    about: 'two handheld frames of a walker',
    task: 'In the first frame the walker stands well, in the second the lantern is held better. Take the arm from the second.',
    shoot: (scenes) => {
      const scene = scenes.scene('mill', { ...DUSK, sky: 0.24, sun: 0.06 });
      return (['walker-a', 'walker-b'] as const).map((pose, i) =>
        frame(
          numbered('warden', i),
          withPlate(scene, scenes.plate(pose), { x: 262, y: 966, distance: 5.9 }),
          {
            ...BASE,
            lens: lensOf(50, 5.6),
            stand: i === 0 ? { yaw: -10.6, pitch: -2.4, roll: 0 } : { yaw: -10.2, pitch: -2.1, roll: 0.7 },
            seconds: 0.25,
            seed: 350 + i,
          },
          8000 + 2 * i,
        ),
      );
    },
  },
  {
    id: 'developments',
    title: 'Three mugs and a card',
    about: 'one exposure developed twice',
    task: 'Take the white mug from the dark development and the black one from the light one. Are the greys of the card neutral?',
    shoot: (scenes) => {
      const shot: ViewShot = {
        ...BASE,
        lens: lensOf(58, 11, { focus: 0.94 }),
        stand: { yaw: 0, pitch: 0.45, roll: 0 },
        seconds: 1.6,
        seed: 370,
      };
      const { signal } = shootView(scenes.scene('mugs', { window: 0.5, lamp: 0.5 }), shot);
      return [-1.2, 2].map((stops, i) => ({
        file: numbered('mugs', i),
        image: developSignal({
          ...signal,
          planes: signal.planes.map((p) => p.map((v) => v * 2 ** stops)),
        }),
        facts: factsOf(shot, clock(9000)),
      }));
    },
  },
  {
    id: 'plates',
    title: 'The heron and the boat',
    about: 'a frame of the pool and five cut-outs',
    task: 'Make one picture where the boat lies on the pool and the heron stands on the bank. Each cut-out was taken under other light: under Ground lay the ground, pull the horizon to where it is, say “Make it belong” of each, and turn the sun to where it stands. Leave out what does not fit.',
    shoot: (scenes) => {
      const shot: ViewShot = {
        ...BASE,
        lens: lensOf(31, 8),
        stand: { yaw: 0, pitch: 0, roll: 0 },
        seconds: 0.45,
        seed: 390,
      };
      const scene = scenes.scene('mill', { sky: 0.3, sun: 0.12, lamp: 1.6 });
      const ground = frame(
        'pool-01.jpg',
        withRipples(scene, waterMask(scene, MILL_POOL), 0, shot.seconds),
        shot,
        9600,
      );
      const cut = CUT_OUTS.map(({ name, gain }) => ({
        file: `${name.replace('-noon', '')}.png`,
        ...developPlate(scenes.plate(name), gain),
        facts: {},
      }));
      return [ground, ...cut];
    },
  },
  {
    id: 'night',
    title: 'Two nights of stars',
    about: 'sixteen equal frames',
    task: 'Stack both nights on the stars. A satellite crosses one frame: is it gone? One frame was out of focus: which? Take the town’s light out of the sky.',
    shoot: () =>
      Array.from({ length: 16 }, (_, i): DemoFrame => {
        const second = i >= 8;
        const [width, height] = [1200, 800];
        const sky = nightSky(FERROW_SKY, {
          width,
          height,
          dx: (second ? 22 : 0) + 3 * Math.sin(2.1 * i),
          dy: (second ? -14 : 0) + 2 * Math.cos(1.7 * i),
          turn: (second ? 4.5 : 0) + 0.02 * i,
          trail: 0,
          satellite: i === 5,
          // the lens was knocked in one frame
          ...(i === 11 ? { soft: 2.2 } : {}),
        });
        const light = { ...sky, planes: sky.planes.map((p) => p.map((v) => v * NIGHT_GAIN)) };
        const iso = 3200;
        return {
          file: numbered('night', i),
          image: readSensor(light, sensorAt(iso), 500 + i).image,
          facts: {
            ...factsOf(
              {
                width,
                height,
                iso,
                lens: lensOf(24, 2.8),
                stand: { yaw: 0, pitch: 0, roll: 0 },
                seconds: 60,
                seed: 0,
              },
              clock(12000 + 70 * i + (second ? 86400 : 0)),
            ),
          },
        };
      }),
  },
];

const NIGHT_GAIN = 2.2;

/** The cut-outs of the composite, and how bright each was developed. */
const CUT_OUTS = [
  { name: 'boat', gain: 0.36 },
  { name: 'heron', gain: 0.55 },
  { name: 'walker-noon', gain: 0.5 },
  { name: 'moon', gain: 0.7 },
  { name: 'cloud', gain: 0.75 },
] as const;

/** The evening: a short exposure of the water, the last light on the wall, a long one through a grey filter, the dark. */
const MOMENTS = [
  { mix: { sky: 0.55, sun: 0.3, lamp: 0.25 }, seconds: 1 / 30, filter: 0, aperture: 2.8 },
  { mix: { sky: 0.3, sun: 0.16, lamp: 1 }, seconds: 0.4, filter: 0, aperture: 8 },
  { mix: { sky: 0.15, sun: 0.02, lamp: 2.2 }, seconds: 8, filter: 3.3, aperture: 8 },
  { mix: { sky: 0.06, sun: 0, lamp: 2.6 }, seconds: 1.3, filter: 0, aperture: 8 },
] as const;
