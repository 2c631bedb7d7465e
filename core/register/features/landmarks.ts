import { localStructure } from '../localStructure';
import { type Representation } from '../logLuminance';
import { corners } from './corners';
import { describe, packed } from './describe';
import { type Structure, structureTensor } from './structureTensor';
import { length2 } from '../../raster/length';

/** Distinct points that are known again when the picture is turned, enlarged or lit otherwise; parallel lists. */
export interface Landmarks {
  readonly count: number;
  /** full-size pixels */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** radians: the direction of what surrounds it */
  readonly turn: Float32Array;
  /** full-size pixels a pixel of the level that it was found on */
  readonly size: Float32Array;
  readonly descriptors: Int16Array;
}

/** window over which mean and deviation of tones are evened out, pixels */
const EVENED = 16;
/** steps of √2 between the sizes that are looked at */
const SIZES = 5;
const STEP = Math.SQRT1_2;
/** points of the finest size; each coarser one gives so much less */
const WANTED = 320;
const LESS = 0.72;
/** the described square may be turned: its half diagonal, and a pixel more */
const MARGIN = 16;
/** corner strength of structure whose deviation is one */
const LEAST_STRENGTH = 2e-3;
/** pixels around a point whose directions make its own */
const AROUND = 9;
const DIRECTIONS = 36;
/** a second direction that is nearly as strong is a landmark of its own (Lowe 2004) */
const SECOND = 0.8;

interface Found {
  readonly x: number;
  readonly y: number;
  readonly turn: number;
  readonly size: number;
  readonly descriptor: Float32Array;
}

/**
 * Corners at sizes √2 apart in structure freed of tone, each with the direction of its surroundings and a description that is turned with it
 * (Lowe 2004 on the corners of Brown, Szeliski & Winder 2005).
 * @param source log luminance, halved `level` times from full size
 */
export function landmarks(source: Representation, level: number): Landmarks {
  const even = localStructure(source, EVENED, true);
  let grey: Float32Array = even.value.map((v, i) => (even.valid[i] > 0 ? v : 0));
  let [width, height] = [source.width, source.height];
  let wanted = WANTED;
  const found: Found[] = [];
  for (let step = 0, size = 1; step < SIZES; step++, size /= STEP, wanted *= LESS) {
    if (step > 0) ({ grey, width, height } = reduced(grey, width, height));
    if (Math.min(width, height) <= 3 * MARGIN) break;
    const structure = structureTensor(grey, width, height);
    const wish = { wanted, least: LEAST_STRENGTH, margin: MARGIN };
    for (const { x, y } of corners(structure.strength, width, height, wish))
      for (const turn of directions(structure, width, x, y))
        found.push({
          x: (x + 0.5) * size - 0.5,
          y: (y + 0.5) * size - 0.5,
          turn,
          size,
          descriptor: describe(structure, width, x, y, turn),
        });
  }
  const full = 2 ** level;
  const place = (v: number): number => (v + 0.5) * full - 0.5;
  return {
    count: found.length,
    x: Float32Array.from(found, (f) => place(f.x)),
    y: Float32Array.from(found, (f) => place(f.y)),
    turn: Float32Array.from(found, (f) => f.turn),
    size: Float32Array.from(found, (f) => f.size * full),
    descriptors: packed(found.map((f) => f.descriptor)),
  };
}

/** The same, smaller by √2, read between its pixels; slopes are softened when they are taken. */
function reduced(
  grey: Float32Array,
  w: number,
  h: number,
): { grey: Float32Array; width: number; height: number } {
  const [width, height] = [Math.floor(w * STEP), Math.floor(h * STEP)];
  const out = new Float32Array(width * height);
  const k = 1 / STEP;
  for (let y = 0, o = 0; y < height; y++) {
    const v = Math.min(h - 2, Math.max(0, (y + 0.5) * k - 0.5));
    const [iv, fv] = [Math.floor(v), v - Math.floor(v)];
    for (let x = 0; x < width; x++, o++) {
      const u = Math.min(w - 2, Math.max(0, (x + 0.5) * k - 0.5));
      const [iu, fu] = [Math.floor(u), u - Math.floor(u)];
      const i = iv * w + iu;
      out[o] =
        (1 - fv) * ((1 - fu) * grey[i] + fu * grey[i + 1]) +
        fv * ((1 - fu) * grey[i + w] + fu * grey[i + w + 1]);
    }
  }
  return { grey: out, width, height };
}

const WINDOW = Array.from({ length: (2 * AROUND + 1) ** 2 }, (_, k) => {
  const [dx, dy] = [(k % (2 * AROUND + 1)) - AROUND, Math.floor(k / (2 * AROUND + 1)) - AROUND];
  return { dx, dy, weight: Math.exp(-(dx * dx + dy * dy) / (2 * (AROUND / 2) ** 2)) };
});

/** The strongest directions of slopes around a point, one or two, radians. */
function directions({ x: gx, y: gy }: Structure, width: number, cx: number, cy: number): number[] {
  const votes = new Float32Array(DIRECTIONS);
  const [ix, iy] = [Math.round(cx), Math.round(cy)];
  for (const { dx, dy, weight } of WINDOW) {
    const i = (iy + dy) * width + ix + dx;
    const size = length2(gx[i], gy[i]);
    const at = ((Math.atan2(gy[i], gx[i]) / (2 * Math.PI)) * DIRECTIONS + DIRECTIONS) % DIRECTIONS;
    const first = Math.floor(at);
    votes[first % DIRECTIONS] += weight * size * (1 - at + first);
    votes[(first + 1) % DIRECTIONS] += weight * size * (at - first);
  }
  const of = (k: number): number => votes[(k + DIRECTIONS) % DIRECTIONS];
  const soft = votes.map((v, k) => (of(k - 2) + 4 * of(k - 1) + 6 * v + 4 * of(k + 1) + of(k + 2)) / 16);
  const most = soft.reduce((a, b) => Math.max(a, b), 0);
  const near = (k: number): number => soft[(k + DIRECTIONS) % DIRECTIONS];
  const peaks = [...soft.keys()].filter(
    (k) => soft[k] >= SECOND * most && soft[k] > near(k - 1) && soft[k] >= near(k + 1),
  );
  return peaks
    .sort((a, b) => soft[b] - soft[a])
    .slice(0, 2)
    .map((k) => {
      const curve = near(k - 1) - 2 * soft[k] + near(k + 1);
      const off = curve < 0 ? (0.5 * (near(k - 1) - near(k + 1))) / curve : 0;
      return ((k + off) / DIRECTIONS) * 2 * Math.PI;
    });
}
