import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { normalSource, randomSource } from '@/core/raster/random';
import { developSignal, readSensor } from './exposeFrame';
import { type Lens, PLAIN_LENS } from './lens';
import { FERROW_SKY, nightSky } from './nightSky';
import { type Stand } from './lookThrough';
import { type SceneView } from './sceneView';
import { factsOf, sensorAt, shootView, type ViewShot } from './shootView';
import { withWalker } from './walker';

/** How bright each light of the mill scene is turned. */
export interface LightMix {
  readonly sky: number;
  readonly sun: number;
  readonly lamp: number;
  readonly stand: number;
}

/** The rendered scenes that the demo is shot from. */
export interface DemoScenes {
  readonly mill: (mix: LightMix) => SceneView;
  /** the marsh all round the mill */
  readonly round: () => SceneView;
}

/** One frame of a demo set. */
export interface DemoFrame {
  readonly file: string;
  readonly image: EncodedImage;
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

const DUSK: LightMix = { sky: 0.16, sun: 0.03, lamp: 2.2, stand: 0 };
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

/** Sets besides the bracket, in the order of the shelf. */
export const DEMO_SETS: readonly DemoSet[] = [
  {
    id: 'panorama',
    title: 'Ferrow marsh, all round',
    about: 'seven frames in one row',
    task: 'Make one wide picture with a level horizon. One frame has another white balance: is it evened out? Crop the blank border.',
    shoot: ({ round }) => {
      const scene = round();
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
    shoot: ({ mill }) => {
      const scene = mill(DUSK);
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
    shoot: ({ mill }) => {
      const scene = mill({ ...DUSK, sky: 0.22 });
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
    title: 'Near post, far mill',
    about: 'two focus distances by hand',
    task: 'Two frames, one sharp near and one far. Merge them, then look along the post for a double outline.',
    shoot: ({ mill }) => {
      const scene = mill(DUSK);
      return [3.8, 18].map((focus, i) =>
        frame(
          numbered('post', i),
          scene,
          {
            ...BASE,
            lens: lensOf(50, 4, { focus, breathing: 0.06 }),
            stand: { yaw: -12, pitch: -7, roll: i === 0 ? 0 : 0.12 },
            seconds: 0.28,
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
    task: 'Take the sky of one hour and the windows of another. The tripod slipped once: see under Fit which frame shows it.',
    shoot: ({ mill }) => {
      const mixes: LightMix[] = [
        { sky: 0.55, sun: 0.3, lamp: 0.25, stand: 0 },
        { sky: 0.3, sun: 0.12, lamp: 1, stand: 0 },
        { sky: 0.15, sun: 0.02, lamp: 2.2, stand: 0 },
        { sky: 0.06, sun: 0, lamp: 2.6, stand: 0 },
      ];
      const seconds = [0.15, 0.25, 0.5, 0.8];
      return mixes.map((mix, i) =>
        frame(
          numbered('evening', i),
          mill(mix),
          {
            ...BASE,
            lens: lensOf(31, 8),
            stand: i < 2 ? { yaw: 0, pitch: 0, roll: 0 } : { yaw: 0.32, pitch: -0.18, roll: 0.24 },
            seconds: seconds[i],
            seed: 310 + i,
          },
          1000 + 1400 * i,
        ),
      );
    },
  },
  {
    id: 'lamp',
    title: 'A lamp for the boardwalk',
    about: 'with the lamp and without it',
    task: 'Keep the light that the lamp throws on the boardwalk and leave the rest as it was.',
    shoot: ({ mill }) =>
      [0, 0.5].map((stand, i) =>
        frame(
          numbered('lamp', i),
          mill({ ...DUSK, lamp: 1.6, stand }),
          {
            ...BASE,
            lens: lensOf(31, 5.6),
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
    shoot: ({ mill }) => {
      const scene = mill({ ...DUSK, sky: 0.24, sun: 0.06 });
      return [8, 48].map((arm, i) =>
        frame(
          numbered('warden', i),
          withWalker(scene, { x: 330, y: 935, distance: 7.4, stride: 0.12, arm, moves: 0 }),
          {
            ...BASE,
            lens: lensOf(50, 5.6),
            stand: i === 0 ? { yaw: -14, pitch: -2.4, roll: 0 } : { yaw: -13.6, pitch: -2.1, roll: 0.7 },
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
    title: 'Windows and wall',
    about: 'one exposure developed twice',
    task: 'Take the windows from the dark development and the wall from the light one.',
    shoot: ({ mill }) => {
      const shot: ViewShot = {
        ...BASE,
        lens: lensOf(50, 5.6),
        stand: { yaw: 9, pitch: 4, roll: 0 },
        seconds: 0.3,
        seed: 370,
      };
      const { signal } = shootView(mill(DUSK), shot);
      return [-1.2, 2].map((stops, i) => ({
        file: numbered('wall', i),
        image: developSignal({
          ...signal,
          planes: signal.planes.map((p) => p.map((v) => v * 2 ** stops)),
        }),
        facts: factsOf(shot, clock(9000)),
      }));
    },
  },
  {
    id: 'night',
    title: 'Two nights of stars',
    about: 'sixteen equal frames',
    task: 'Stack both nights on the stars. A satellite crosses one frame: is it gone? Take the town’s light out of the sky.',
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
        });
        const light = { ...sky, planes: sky.planes.map((p) => p.map((v) => v * NIGHT_GAIN)) };
        const iso = 3200;
        return {
          file: numbered('night', i),
          image: developSignal(readSensor(light, sensorAt(iso), 500 + i)),
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
