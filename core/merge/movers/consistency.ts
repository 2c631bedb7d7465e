import { type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3, toLevel } from '../../raster/matrix3';
import { sharedFloats } from '../../raster/raster';
import { lightVariance, log2Quick } from '../../register/logLuminance';
import { reducedLight } from './reducedLight';

/** A frame as the search for movers sees it. */
export interface MoverFrame {
  readonly image: EncodedImage;
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
  /** exposure relative to the reference, EV */
  readonly stops: number;
}

/** Light of one frame on the reduced grid, in the reference's exposure. */
export interface FrameLight {
  readonly width: number;
  readonly height: number;
  readonly level: number;
  /** log2 of the luminance and a small floor; NaN where the frame holds nothing there */
  readonly log: Float32Array;
  /** the least that the same can be where the frame is burnt out; NaN elsewhere */
  readonly least: Float32Array;
  /** the most that it can be where the frame is dark; NaN elsewhere */
  readonly most: Float32Array;
  /** log2 of red over blue, with the floor; NaN where the frame holds nothing */
  readonly tint: Float32Array;
  readonly tintSpread: Float32Array;
  /** standard deviation of log and most, stops: noise and what a misfit of a third of a pixel does at an edge */
  readonly spread: Float32Array;
}

const LONG_EDGE = 640;
/** floor added before the logarithm, of the reference's white */
const FLOOR = 0.002;
/** what cameras' curves and white balance leave between exposures, stops */
const MODEL = 0.06;
/** misfit that must not count as movement, full-size pixels */
const MISFIT = 0.4;

/** Halvings that bring a picture to the grid on which movers are searched. */
export function moverLevel(width: number, height: number): number {
  return Math.max(0, Math.ceil(log2Quick(Math.max(width, height) / LONG_EDGE)));
}

/** Light of one frame on the reduced grid of the reference, in the reference's exposure. */
export function frameLight({ image, matrix, stops }: MoverFrame, width: number, height: number): FrameLight {
  const level = moverLevel(width, height);
  const [w, h] = [Math.max(1, width >> level), Math.max(1, height >> level)];
  const own = reducedLight(image, level);
  const map = toLevel(matrix, level);
  const gain = 2 ** -stops;
  const log = sharedFloats(w * h).fill(NaN);
  const least = sharedFloats(w * h).fill(NaN);
  const most = sharedFloats(w * h).fill(NaN);
  const tint = sharedFloats(w * h).fill(NaN);
  const tintNoise = new Float32Array(w * h);
  const light = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      // written out: a pair of numbers a pixel is what the time would go into
      const d = 1 / (map[6] * x + map[7] * y + map[8]);
      const u = (map[0] * x + map[1] * y + map[2]) * d;
      const v = (map[3] * x + map[4] * y + map[5]) * d;
      if (!(u >= 0 && v >= 0 && u <= own.w - 1 && v <= own.h - 1)) continue;
      const iu = Math.max(0, Math.min(own.w - 2, u | 0));
      const iv = Math.max(0, Math.min(own.h - 2, v | 0));
      const fu = u - iu;
      const fv = v - iv;
      const p = iv * own.w + iu;
      // any neighbour that holds nothing makes this NaN too
      light[i] = between(own.light, p, own.w, fu, fv) * gain;
      if (!Number.isNaN(light[i])) {
        log[i] = log2Quick(light[i] + FLOOR);
        const red = between(own.red, p, own.w, fu, fv) * gain;
        const blue = between(own.blue, p, own.w, fu, fv) * gain;
        tint[i] = log2Quick((red + FLOOR) / (blue + FLOOR));
        tintNoise[i] = logVariance(red, gain, level) + logVariance(blue, gain, level);
      }
      const nearest = p + (fu < 0.5 ? 0 : 1) + (fv < 0.5 ? 0 : own.w);
      if (own.least[nearest] > 0) least[i] = log2Quick(own.least[nearest] * gain + FLOOR);
      if (Number.isNaN(light[i]) && own.most[nearest] > 0) {
        light[i] = own.most[nearest] * gain;
        most[i] = log2Quick(light[i] + FLOOR);
      }
    }
  const noise = light.map((l) => logVariance(l, gain, level));
  const spread = spreadOf(log, noise, w, h, level);
  return {
    ...{ width: w, height: h, level, log, least, most, spread, tint },
    tintSpread: spreadOf(tint, tintNoise, w, h, level),
  };
}

/** Bilinear, from the cell at `p` and its neighbours. */
function between(plane: Float32Array, p: number, w: number, fu: number, fv: number): number {
  const top = plane[p] + fu * (plane[p + 1] - plane[p]);
  const bottom = plane[p + w] + fu * (plane[p + w + 1] - plane[p + w]);
  return top + fv * (bottom - top);
}

/** Variance that noise gives the logarithm of a light, stops². */
function logVariance(light: number, gain: number, level: number): number {
  const slope = 1.4427 / (light + FLOOR);
  return lightVariance(light, gain, level) * slope * slope;
}

/** The larger of a step and the size of a difference; a difference to where nothing is held counts as none. */
const larger = (step: number, difference: number): number => {
  const d = difference < 0 ? -difference : difference;
  return d > step ? d : step;
};

/** Standard deviation of values whose noise is known, with what a misfit does; 0 where there is none. */
function spreadOf(
  value: Float32Array,
  noise: Float32Array,
  w: number,
  h: number,
  level: number,
): Float32Array {
  const out = sharedFloats(value.length);
  const reach = Math.max(0.5, MISFIT / 2 ** level + 0.35);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      // noise is known also where the frame is only seen to be dark
      if (Number.isNaN(noise[i])) continue;
      // the steepest step to a neighbour: bilinear sampling and a misfit change the value by a part of it
      const own = value[i];
      let step = 0;
      if (x > 0) step = larger(step, value[i - 1] - own);
      if (x + 1 < w) step = larger(step, value[i + 1] - own);
      if (y > 0) step = larger(step, value[i - w] - own);
      if (y + 1 < h) step = larger(step, value[i + w] - own);
      out[i] = Math.sqrt(noise[i] + MODEL * MODEL + (reach * step) ** 2);
    }
  return out;
}
