import { boxMean } from '../../raster/boxMean';
import { encodeOpen } from '../../colour/encodeSource';
import { type Kernels, kernels, planeBytes, uploadPlanes } from '../../kernels/kernels';
import { spreadRowsKernel } from '../../kernels/spreadRows';
import { type Rectangle } from '../../raster/raster';

/** How a radiance map is brought to the range of a print or screen. */
export interface ToneWish {
  /** 0 leaves the range as the reference shot it, 1 presses all of it into the picture */
  readonly strength: number;
  /** factor on local contrast; 1 keeps it */
  readonly detail: number;
}

export const NATURAL: ToneWish = { strength: 0.75, detail: 1 };

/** The base of a picture: large areas of light without their detail, as linear functions of the local tone on a reduced grid. */
export interface ToneBase {
  readonly width: number;
  readonly height: number;
  /** full-size pixels a grid cell */
  readonly cell: number;
  /** base = slope · tone + offset, stops */
  readonly slope: Float32Array;
  readonly offset: Float32Array;
  /** stops of the base that 0.5 %, half and 99.5 % of the picture lie below */
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

const BLACK = -20;
/** window of the base, of the long edge; what is smaller counts as detail */
const WINDOW = 1 / 24;
/** variance of tone, stops², above which a change of tone is an edge of the base */
const EDGE = 1.2;
/** where the picture's tones are to end, stops from middle grey */
const DARKEST = -5;
const LIGHTEST = 1.9;
const WHITE = Math.log2(1 / 0.18);

/** Tone of linear light: stops of luminance from middle grey. */
export function toneOf(r: number, g: number, b: number): number {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return y > 1e-7 ? Math.log2(y / 0.18) : BLACK;
}

/** Tone of every pixel of linear planes. */
export function tonesOf(planes: readonly Float32Array[]): Float32Array {
  const [R, G, B] = planes;
  const k = kernels();
  if (!k) return R.map((r, i) => toneOf(r, G[i], B[i]));
  return k.borrow(() => {
    const at = uploadPlanes(k, planes);
    k.tonePlane(at, planeBytes(R.length), R.length, at);
    return k.floats(at, R.length).slice();
  });
}

/**
 * Parts the base from the detail: guided filter of the tone along itself (He, Sun & Tang 2010) on a reduced grid, whose coefficients
 * hold at full size, so that edges of light keep no halo.
 * @param tone reduced plane of mean stops
 * @param cell full-size pixels a cell
 */
export function toneBase(tone: Float32Array, width: number, height: number, cell: number): ToneBase {
  const radius = Math.max(2, Math.round(Math.max(width, height) * WINDOW));
  const mean = (p: Float32Array): Float32Array => boxMean(p, width, height, radius);
  const m = mean(tone);
  const square = mean(tone.map((v) => v * v));
  const slope = new Float32Array(tone.length);
  const offset = new Float32Array(tone.length);
  for (let i = 0; i < tone.length; i++) {
    const variance = Math.max(0, square[i] - m[i] * m[i]);
    slope[i] = variance / (variance + EDGE);
    offset[i] = m[i] * (1 - slope[i]);
  }
  const [a, b] = [mean(slope), mean(offset)];
  const sorted = tone.map((v, i) => a[i] * v + b[i]).sort();
  const at = (share: number): number =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  return { width, height, cell, slope: a, offset: b, low: at(0.005), middle: at(0.5), high: at(0.995) };
}

/** where the middle of a picture is led to, stops from middle grey */
const MIDDLE = -1.3;
/** stops over which the slope changes from that of the darks to that of the lights */
const TURN = 1.5;

/**
 * The curve of the base: the middle of the picture is led towards where a print has it; darks and lights are each pressed as much as
 * their own range needs, and no more; the slope changes softly between them.
 */
export function baseCurve(base: ToneBase, strength: number): (base: number) => number {
  const { aim, down, up, middle, zero } = bendOf(base, strength);
  return (at) => {
    const d = at - middle;
    return aim + down * d + (up - down) * (soft(d) - zero);
  };
}

/** the integral of a slope that goes from 0 to 1 as a logistic curve */
const soft = (d: number): number => TURN * Math.log1p(Math.exp(-Math.abs(d) / TURN)) + Math.max(0, d);

/** The numbers of {@link baseCurve}: where the middle goes, and the slopes below and above it. */
function bendOf({ low, middle, high }: ToneBase, strength: number) {
  const aim = middle + strength * (MIDDLE - middle);
  const pressed = (room: number, range: number): number =>
    1 + strength * (Math.min(1, Math.max(0.1, room / Math.max(1e-3, range))) - 1);
  const down = pressed(aim - DARKEST, middle - low);
  const up = pressed(LIGHTEST - aim, high - middle);
  return { aim, down, up, middle, zero: soft(0) };
}

/** linear light from which a channel is rounded off towards white */
const KNEE = 0.7;

/** Stops under white from which lights are rounded off instead of cut. */
const SHOULDER = 1.2;

/** Rounds tones off towards white: slope 1 below the shoulder, never beyond white. */
export function shoulder(tone: number): number {
  const over = tone - (WHITE - SHOULDER);
  return over <= 0 ? tone : WHITE - SHOULDER + SHOULDER * (1 - Math.exp(-over / SHOULDER));
}

/**
 * Tone-maps linear planes of a rectangle in place to sRGB-encoded 0…1: the base follows its curve, detail is put back, luminance alone
 * is changed so that hue stays, and colours that leave sRGB lose chroma instead of turning.
 */
export function toneMapPlanes(
  planes: readonly Float32Array[],
  area: Rectangle,
  base: ToneBase,
  wish: ToneWish,
): void {
  const [R, G, B] = planes;
  const curve = baseCurve(base, wish.strength);
  const { width: w, height: h, cell, slope, offset } = base;
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = Math.min(h - 1, Math.max(0, (y + area.y + 0.5) / cell - 0.5));
    const iv = Math.floor(v);
    const fy = v - iv;
    const [top, bottom] = [iv * w, Math.min(h - 1, iv + 1) * w];
    for (let x = 0; x < area.width; x++, i++) {
      const u = Math.min(w - 1, Math.max(0, (x + area.x + 0.5) / cell - 0.5));
      const iu = Math.floor(u);
      const fx = u - iu;
      const right = Math.min(w - 1, iu + 1);
      const mix = (p: Float32Array): number =>
        (1 - fy) * ((1 - fx) * p[top + iu] + fx * p[top + right]) +
        fy * ((1 - fx) * p[bottom + iu] + fx * p[bottom + right]);
      const tone = toneOf(R[i], G[i], B[i]);
      const b = mix(slope) * tone + mix(offset);
      const toned = shoulder(curve(b) + wish.detail * (tone - b));
      const gain = 2 ** (toned - tone);
      let r = Math.max(0, R[i] * gain);
      let g = Math.max(0, G[i] * gain);
      let bl = Math.max(0, B[i] * gain);
      const most = Math.max(r, g, bl);
      if (most > KNEE) {
        // towards grey of the same luminance, until the strongest channel comes softly under white
        const grey = Math.min(1, 0.2126 * r + 0.7152 * g + 0.0722 * bl);
        const wanted = Math.max(grey, 1 - (1 - KNEE) * Math.exp(-(most - KNEE) / (1 - KNEE)));
        const t = most > grey ? (wanted - grey) / (most - grey) : 0;
        r = grey + t * (r - grey);
        g = grey + t * (g - grey);
        bl = grey + t * (bl - grey);
      }
      R[i] = encodeOpen(r);
      G[i] = encodeOpen(g);
      B[i] = encodeOpen(bl);
    }
  }
}

/** {@link toneMapPlanes} by the compiled kernels, for planes in their memory, `plane` bytes apart from `at` on. */
export function toneMapKernel(
  k: Kernels,
  at: number,
  plane: number,
  area: Rectangle,
  base: ToneBase,
  wish: ToneWish,
): void {
  const { aim, down, up, middle, zero } = bendOf(base, wish.strength);
  k.borrow(() => {
    const [slope, offset] = [base.slope, base.offset].map((cells) => {
      const spread = k.take(plane);
      spreadRowsKernel(k, cells, base, area, 0, spread);
      return spread;
    });
    k.toneMapPixels(
      ...[at, plane, area.width * area.height, slope, offset, wish.detail],
      ...[middle, aim, down, up, TURN, zero, WHITE - SHOULDER, SHOULDER, KNEE],
    );
  });
}
