import { randomSource, normalSource } from '@/core/raster/random';
import { type Raster } from '@/core/raster/raster';

/** A made-up sky at night, seen by a camera that follows the stars or stands still. */
export interface NightSky {
  readonly seed: number;
  readonly stars: number;
  /** radiance of an empty place of the sky */
  readonly glow: number;
  /** light of a town below the horizon: radiance added at the lower left corner */
  readonly town: number;
  /** radiance of the brightest part of the nebula */
  readonly nebula: number;
}

/** The demo's sky; everything about it is invented. */
export const FERROW_SKY: NightSky = { seed: 77, stars: 900, glow: 0.012, town: 0.05, nebula: 0.006 };

/** How one frame sees the sky. */
export interface SkyFrame {
  readonly width: number;
  readonly height: number;
  /** pixels that the frame is off, and how far it is turned about its middle, degrees */
  readonly dx: number;
  readonly dy: number;
  readonly turn: number;
  /** how far the stars move across the frame while it exposes, pixels; 0 when they are followed */
  readonly trail: number;
  /** how many times wider than in focus a star is drawn; 1 when left out */
  readonly soft?: number;
  /** a satellite crosses this frame */
  readonly satellite?: boolean;
}

/** Star's point spread, standard deviation in pixels. */
const SIGMA = 0.95;
const STEPS = 24;

/** Value noise with smooth interpolation, 0…1. */
function cloud(seed: number): (x: number, y: number) => number {
  const random = randomSource(seed);
  const N = 64;
  const grid = Float32Array.from({ length: N * N }, () => random());
  const at = (x: number, y: number): number => grid[(((y % N) + N) % N) * N + (((x % N) + N) % N)];
  return (x, y) => {
    const [ix, iy] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [x - ix, y - iy].map((t) => t * t * (3 - 2 * t));
    return (
      (at(ix, iy) * (1 - u) + at(ix + 1, iy) * u) * (1 - v) +
      (at(ix, iy + 1) * (1 - u) + at(ix + 1, iy + 1) * u) * v
    );
  };
}

/**
 * Radiance of a night sky in a frame: stars by a power law of brightness (three times as many for each magnitude: common practice), a faint
 * nebula, the glow of a town. The same seed gives the same sky wherever the frame looks.
 */
export function nightSky(sky: NightSky, frame: SkyFrame): Raster {
  const { width: w, height: h } = frame;
  const planes = [new Float32Array(w * h), new Float32Array(w * h), new Float32Array(w * h)];
  const fog = cloud(sky.seed + 1);
  const unit = Math.max(w, h);
  const turn = (frame.turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [cx, cy] = [(w - 1) / 2, (h - 1) / 2];
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      // the town stays with the ground, the nebula with the stars
      const low = Math.exp(-((h - y) / h) * 2.6 - (x / w) * 1.1);
      const [u, v] = [x - cx - frame.dx, y - cy - frame.dy];
      const [sx, sy] = [(cos * u + sin * v) / unit, (-sin * u + cos * v) / unit];
      const band = Math.exp(-(((sy + 0.35 * sx) / 0.13) ** 2));
      let dust = 0;
      for (let o = 0, size = 9, amount = 0.55; o < 4; o++, size *= 2.1, amount *= 0.5)
        dust += amount * fog(sx * size + 31, sy * size + 17);
      const mist = sky.nebula * band * Math.max(0, dust - 0.25) * 2;
      planes[0][i] = sky.glow * 0.9 + sky.town * low * 1.25 + mist * 1.3;
      planes[1][i] = sky.glow + sky.town * low + mist * 0.9;
      planes[2][i] = sky.glow * 1.2 + sky.town * low * 0.7 + mist * 1.15;
    }
  const random = randomSource(sky.seed);
  const normal = normalSource(random);
  for (let k = 0; k < sky.stars; k++) {
    const [px, py] = [(random() - 0.5) * 1.3 * unit, (random() - 0.5) * 1.3 * unit];
    const flux = Math.min(60, 0.16 * (1 - random()) ** -0.9);
    const warm = 0.22 * normal();
    const steps = frame.trail > 0 ? STEPS : 1;
    for (let s = 0; s < steps; s++) {
      const t = steps > 1 ? s / (steps - 1) - 0.5 : 0;
      const x = cos * px - sin * py + cx + frame.dx + t * frame.trail;
      const y = sin * px + cos * py + cy + frame.dy + t * frame.trail * 0.3;
      splat(planes, w, h, x, y, flux / steps, warm, frame.soft);
    }
  }
  if (frame.satellite) {
    const [from, to] = [random() * h, random() * h];
    for (let x = 0; x < w; x += 0.5) splat(planes, w, h, x, from + ((to - from) * x) / w, 0.22, 0);
  }
  return { width: w, height: h, planes };
}

function splat(
  planes: readonly Float32Array[],
  w: number,
  h: number,
  x: number,
  y: number,
  flux: number,
  warm: number,
  soft = 1,
): void {
  const sigma = SIGMA * soft;
  const k = flux / (2 * Math.PI * sigma * sigma);
  const reach = Math.ceil(5 * soft);
  for (let v = Math.max(0, Math.ceil(y - reach)); v <= Math.min(h - 1, y + reach); v++)
    for (let u = Math.max(0, Math.ceil(x - reach)); u <= Math.min(w - 1, x + reach); u++) {
      const g = k * Math.exp(-((u - x) ** 2 + (v - y) ** 2) / (2 * sigma * sigma));
      planes[0][v * w + u] += g * (1 + warm);
      planes[1][v * w + u] += g;
      planes[2][v * w + u] += g * (1 - warm);
    }
}
