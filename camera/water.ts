import { randomSource } from '@/core/raster/random';
import { type SceneView } from './sceneView';

/** The water's surface below the camera, as the mill's scene was built. */
export interface Water {
  /** metres below the camera */
  readonly below: number;
  /** how far up the scene's picture looks, radians; negative is down */
  readonly tilt: number;
}

/** The pool of the mill: camera 1.52 m above ground, water 0.42 m under it, the view 0.052 rad down. */
export const MILL_POOL: Water = { below: 1.94, tilt: -0.052 };

/** metres by which a point may lie off the surface and still be water */
const SKIN = 0.025;
/** how long a ripple stays nearly as it is, seconds; an exposure is cut into such moments */
const MOMENT = 0.07;
const MOST = 20;
/** an exposure longer than this, seconds, sees every slope of the longest wave and its opposite: half of the moments are the others' mirror */
const BOTH_WAYS = 1.2;
/** slope of the strongest ripples, radians */
const SLOPE = 0.0045;
/** travelling waves: length in metres and share of the slope; speed by deep water, √(g·λ / 2π) (any physics handbook) */
const WAVES = [
  { length: 1.1, share: 0.4 },
  { length: 0.47, share: 0.35 },
  { length: 0.21, share: 0.25 },
] as const;
const DIRECTIONS = 3;
/** share of a wave's slope that lies across the view */
const ASIDE = 0.3;
const GRAVITY = 9.81;
/** nearer than this, metres, a ripple is so many pixels wide that four move alike, beyond it two */
const WIDE_FROM = 12;
/** scene pixels from the border within which nothing is seen from aside */
const MARGIN = 16;

/** The whole number nearest to one of less than 1000 either way. */
const nearestWhole = (v: number): number => ((v + 1000.5) | 0) - 1000;

/** a turn in even steps: a step is a hundredth of a ripple's width at most */
const TURN = 4096;
const SINES = Float64Array.from({ length: TURN }, (_, i) => Math.sin((2 * Math.PI * i) / TURN));
const PER_RADIAN = TURN / (2 * Math.PI);

interface Wave {
  readonly kx: number;
  readonly kz: number;
  readonly speed: number;
  readonly phase: number;
  readonly slope: number;
}

function waves(): Wave[] {
  const random = randomSource(4711);
  return WAVES.flatMap(({ length, share }) =>
    Array.from({ length: DIRECTIONS }, () => {
      const turn = 2 * Math.PI * random();
      const k = (2 * Math.PI) / length;
      return {
        kx: k * Math.cos(turn),
        kz: k * Math.sin(turn),
        speed: Math.sqrt(GRAVITY * k),
        phase: 2 * Math.PI * random(),
        slope: (SLOPE * share) / DIRECTIONS,
      };
    }),
  );
}

/** [pixel] 1 where the scene shows the water's surface: its depth puts it there. */
export function waterMask({ light, distance, field }: SceneView, { below, tilt }: Water): Uint8Array {
  const { width, height } = light;
  const mask = new Uint8Array(width * height);
  if (!distance || field.kind !== 'flat') return mask;
  const focal = width / 2 / Math.tan((field.across * Math.PI) / 360);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [u, v] = [(x - (width - 1) / 2) / focal, ((height - 1) / 2 - y) / focal];
      const rise = (v * Math.cos(tilt) + Math.sin(tilt)) / Math.sqrt(1 + u * u + v * v);
      if (Math.abs(rise * distance[i] + below) < SKIN) mask[i] = 1;
    }
  return mask;
}

/**
 * The scene with its water in motion: what the surface mirrors is moved by the slope of travelling waves, and an exposure holds the
 * mean of all their places, so that a long one draws the water smooth.
 * @param mask [pixel] 1 where there is water
 * @param from second at which the shutter opens
 * @param seconds of exposure
 */
export function withRipples(scene: SceneView, mask: Uint8Array, from: number, seconds: number): SceneView {
  const { light, field } = scene;
  if (field.kind !== 'flat') return scene;
  const { width, height } = light;
  const focal = width / 2 / Math.tan((field.across * Math.PI) / 360);
  const ways = seconds > BOTH_WAYS ? 2 : 1;
  const steps = Math.max(1, Math.round(Math.min(MOST, seconds / MOMENT) / ways));
  // waves that run to the right come first
  const all = waves().sort((a, b) => Number(b.kx > 0) - Number(a.kx > 0));
  const count = all.length;
  const rightward = 2 * all.filter(({ kx }) => kx > 0).length;
  // in steps of the table of sines
  const [kxs, kzs, phases] = (['kx', 'kz', 'phase'] as const).map((of) =>
    Float64Array.from(all, (wave) => wave[of] * PER_RADIAN),
  );
  const planes = light.planes.map((p) => p.slice());
  const { distance } = scene;
  // a wave's swing at a place and time is parted into what the place gives and what the time gives: cos(a − b) = cos a cos b + sin a sin b
  const [byTime, here] = [new Float64Array(2 * count * steps), new Float64Array(2 * count)];
  for (let s = 0, o = 0; s < steps; s++) {
    const time = from + (seconds * (s + 0.5)) / steps;
    for (const { speed, slope } of all) {
      byTime[o++] = slope * Math.cos(speed * time);
      byTime[o++] = slope * Math.sin(speed * time);
    }
  }
  // pixels beside each other are moved alike: the shortest ripple is many times as wide
  // in pixels from one to the next, and without what goes across, for the border columns
  const [offsets, downs] = [new Int32Array(ways * steps), new Int32Array(ways * steps)];
  let beside = -1;
  const [red, green, blue] = light.planes;
  const [outA, outB, outC] = planes;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (mask[i] === 0 || !distance) continue;
      const ahead = distance[i];
      if (beside !== i - 1 || x % (ahead < WIDE_FROM ? 4 : 2) === 0) {
        const across = (ahead * (x - (width - 1) / 2)) / focal;
        for (let k = 0; k < count; k++) {
          const at = (kxs[k] * across + kzs[k] * ahead + phases[k]) | 0;
          here[2 * k] = SINES[(at + TURN / 4) & (TURN - 1)];
          here[2 * k + 1] = SINES[at & (TURN - 1)];
        }
        for (let s = 0, o = 0; s < steps; s++, o += 2 * count) {
          let rises = 0;
          let falls = 0;
          for (let k = 0; k < rightward; k++) rises += here[k] * byTime[o + k];
          for (let k = rightward; k < 2 * count; k++) falls += here[k] * byTime[o + k];
          // a mirror turned by an angle turns what it shows by twice that
          const right = nearestWhole(2 * ASIDE * (rises - falls) * focal);
          const down = nearestWhole(2 * (rises + falls) * focal) * width;
          offsets[s] = down + right;
          downs[s] = down;
          if (ways === 2) {
            offsets[steps + s] = -down - right;
            downs[steps + s] = -down;
          }
        }
      }
      beside = i;
      let sumA = 0;
      let sumB = 0;
      let sumC = 0;
      const to = x < MARGIN || x >= width - MARGIN ? downs : offsets;
      for (let s = 0; s < to.length; s++) {
        const j = i + to[s];
        const seen = j >= 0 && j < mask.length && mask[j] === 1 ? j : i;
        sumA += red[seen];
        sumB += green[seen];
        sumC += blue[seen];
      }
      outA[i] = sumA / to.length;
      outB[i] = sumB / to.length;
      outC[i] = sumC / to.length;
    }
  return { ...scene, light: { ...light, planes } };
}
