import { randomSource } from '@/core/raster/random';
import { type Kernels, kernels } from '@/core/kernels/kernels';
import { type Raster } from '@/core/raster/raster';
import { layBeside } from './gatherLight';
import { lightWithin, type SceneView } from './sceneView';

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

/** a turn in even steps: a step is a hundredth of a ripple's width at most */
const TURN = 4096;
const SINES = Float32Array.from({ length: TURN }, (_, i) => Math.sin((2 * Math.PI * i) / TURN));
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

/** How the surface swings while the shutter is open, as the kernel and its plain form read it. */
interface Swing {
  /** waves that run to the right come first */
  readonly waves: readonly Wave[];
  /** numbers of {@link byTime} up to which a wave runs to the right: two for each */
  readonly rightward: number;
  readonly steps: number;
  /** moments that {@link byTime} has room for: the kernel takes four at a time */
  readonly padded: number;
  /** 2 where every moment is also seen mirrored */
  readonly ways: 1 | 2;
  /** for each wave, its cosine and then its sine at every moment */
  readonly byTime: Float32Array;
  /** focal length, scene pixels */
  readonly focal: number;
}

function swingOf(focal: number, from: number, seconds: number): Swing {
  const ways = seconds > BOTH_WAYS ? 2 : 1;
  const steps = Math.max(1, Math.round(Math.min(MOST, seconds / MOMENT) / ways));
  const padded = 4 * Math.ceil(steps / 4);
  const all = waves().sort((a, b) => Number(b.kx > 0) - Number(a.kx > 0));
  // a wave's swing at a place and time is parted into what the place gives and what the time gives: cos(a − b) = cos a cos b + sin a sin b
  const byTime = new Float32Array(2 * all.length * padded);
  for (let s = 0; s < steps; s++) {
    const time = from + (seconds * (s + 0.5)) / steps;
    all.forEach(({ speed, slope }, k) => {
      byTime[2 * k * padded + s] = slope * Math.cos(speed * time);
      byTime[(2 * k + 1) * padded + s] = slope * Math.sin(speed * time);
    });
  }
  return {
    waves: all,
    rightward: 2 * all.filter(({ kx }) => kx > 0).length,
    steps,
    padded,
    ways,
    byTime,
    focal,
  };
}

/**
 * The scene with its water in motion: what the surface mirrors is moved by the slope of travelling waves, and an exposure holds the
 * mean of all their places, so that a long one draws the water smooth.
 * @param mask [pixel] 1 where there is water
 * @param from second at which the shutter opens
 * @param seconds of exposure
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function withRipples(
  scene: SceneView,
  mask: Uint8Array,
  from: number,
  seconds: number,
  compiled: Kernels | null = kernels() ?? null,
): SceneView {
  const { light, field, distance } = scene;
  const first = mask.indexOf(1);
  if (field.kind !== 'flat' || !distance || first < 0) return scene;
  const { width } = light;
  // only the rows that hold water are touched
  const top = Math.floor(first / width);
  const rows = Math.floor(mask.lastIndexOf(1) / width) + 1 - top;
  const part = [top * width, (top + rows) * width] as const;
  const focal = width / 2 / Math.tan((field.across * Math.PI) / 360);
  const swing = swingOf(focal, from, seconds);
  const pool: Pool = {
    light: lightWithin(scene, 0, top, width, rows).light,
    mask: mask.subarray(...part),
    distance: distance.subarray(...part),
  };
  const rippled = compiled ? rippledByKernel(compiled, pool, swing) : rippledPlain(pool, swing);
  return {
    ...scene,
    over: [...(scene.over ?? []), { left: 0, top, light: { width, height: rows, planes: rippled } }],
  };
}

/** The rows of the scene that hold water. */
interface Pool {
  readonly light: Raster;
  readonly mask: Uint8Array;
  readonly distance: Float32Array;
}

function rippledByKernel(k: Kernels, { light, mask, distance }: Pool, swing: Swing): Float32Array[] {
  const { width, height, planes } = light;
  const n = width * height;
  const { waves: all, rightward, steps, padded, ways, byTime, focal } = swing;
  return k.borrow(() => {
    const source = k.take(16 * n);
    const [wet, far, out] = [n, 4 * n, 12 * n].map((bytes) => k.take(bytes));
    const laid = k.take(24 * all.length);
    const sines = k.upload(SINES);
    const moments = k.upload(byTime);
    const [here, offsets] = [8 * all.length, 8 * padded].map((bytes) => k.take(bytes));
    layBeside(k, planes, source, 0, n);
    k.bytes(wet, n).set(mask);
    k.floats(far, n).set(distance);
    const turns = all.flatMap(({ kx, kz, phase }) => [kx, kz, phase].map((v) => v * PER_RADIAN));
    k.bytes(laid, 24 * all.length).set(new Uint8Array(Float64Array.from(turns).buffer));
    k.mixRipples(
      ...[source, wet, far, width, height, laid, all.length, rightward, moments, steps, padded, ways],
      ...[sines, TURN, focal, ASIDE, WIDE_FROM, MARGIN, here, offsets, out, 4 * n],
    );
    return planes.map((_, c) => k.floats(out + 4 * n * c, n).slice());
  });
}

/** The plain form of the kernel. */
function rippledPlain({ light, mask, distance }: Pool, swing: Swing): Float32Array[] {
  const { width, height } = light;
  const { waves: all, rightward, steps, padded, ways, byTime, focal } = swing;
  const here = new Float64Array(2 * all.length);
  const [offsets, downs] = [new Int32Array(ways * steps), new Int32Array(ways * steps)];
  const out = light.planes.map((plane) => plane.slice());
  let beside = -1;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (mask[i] === 0) continue;
      const ahead = distance[i];
      // pixels beside each other are moved alike: the shortest ripple is many times as wide
      if (beside !== i - 1 || x % (ahead < WIDE_FROM ? 4 : 2) === 0) {
        const across = (ahead * (x - (width - 1) / 2)) / focal;
        all.forEach(({ kx, kz, phase }, k) => {
          const at = (PER_RADIAN * (kx * across + kz * ahead + phase)) | 0;
          here[2 * k] = SINES[(at + TURN / 4) & (TURN - 1)];
          here[2 * k + 1] = SINES[at & (TURN - 1)];
        });
        for (let s = 0; s < steps; s++) {
          let rises = 0;
          let falls = 0;
          for (let k = 0; k < rightward; k++) rises += here[k] * byTime[k * padded + s];
          for (let k = rightward; k < here.length; k++) falls += here[k] * byTime[k * padded + s];
          // a mirror turned by an angle turns what it shows by twice that
          const right = Math.round(2 * ASIDE * (rises - falls) * focal);
          const down = Math.round(2 * (rises + falls) * focal) * width;
          offsets[s] = down + right;
          downs[s] = down;
          if (ways === 2) {
            offsets[steps + s] = -down - right;
            downs[steps + s] = -down;
          }
        }
      }
      beside = i;
      // nothing is seen from aside at the border
      const to = x < MARGIN || x >= width - MARGIN ? downs : offsets;
      light.planes.forEach((plane, c) => {
        let sum = 0;
        for (const by of to) {
          const j = i + by;
          sum += plane[j >= 0 && j < mask.length && mask[j] === 1 ? j : i];
        }
        out[c][i] = sum / to.length;
      });
    }
  return out;
}
