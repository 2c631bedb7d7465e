import { boxMean } from '../raster/boxMean';
import { invert, type Matrix3 } from '../raster/matrix3';
import { logLuminance, type Representation } from './logLuminance';
import { type Luminance } from './luminance';

/**
 * Radii of the box means that soften light step by step, pixels: 0.8, 1.2, 1.8, 2.3, 3.1, 4.0 and 5.5 pixels of standard deviation from the
 * first step on (a box of radius r has the variance ((2r + 1)² − 1) / 12, and variances add up).
 */
const STEPS = [1, 1, 2, 2, 3, 4, 6] as const;
/** sharpness is judged at every second pixel of every second row, a place each, as the mean over so many places about it */
const WINDOW = 3;
/** gradient energy below which nothing is told apart, stops² */
const LEAST = 1e-6;
/** variance of what stays sharper than the other: it takes no part */
const NO_PART = 1;
/** share of the places that may stay a little too sharp for one step less */
const FEW = 0.002;

/** A plane with a value for every second pixel of every second row. */
interface Places {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

const placesOf = (w: number, h: number) => ({ width: (w + 1) >> 1, height: (h + 1) >> 1 });

/** Squared gradient of the logarithm of light, mean over the window. */
function gradientEnergy({ value: v, width: w, height: h }: Representation): Places {
  const { width, height } = placesOf(w, h);
  const energy = new Float32Array(width * height);
  for (let j = 1; 2 * j + 1 < h; j++)
    for (let x = 2, i = 2 * j * w + 2, k = j * width + 1; x + 1 < w; x += 2, i += 2, k++) {
      const gx = v[i + 1] - v[i - 1];
      const gy = v[i + w] - v[i - w];
      energy[k] = 0.25 * (gx * gx + gy * gy);
    }
  return { width, height, data: boxMean(energy, width, height, WINDOW) };
}

/** Values of the places nearest to where a map of pixels leads. */
function laid({ width: w, height: h, data }: Places, map: Matrix3): Places {
  const [a, b, c, d, e, f, p, q, r] = map;
  const out = new Float32Array(data.length);
  for (let j = 0, k = 0; j < h; j++)
    for (let i = 0; i < w; i++, k++) {
      const x = 2 * i;
      const y = 2 * j;
      const z = 0.5 / (p * x + q * y + r);
      const u = Math.min(w - 1, Math.max(0, Math.round((a * x + b * y + c) * z)));
      const v = Math.min(h - 1, Math.max(0, Math.round((d * x + e * y + f) * z)));
      out[k] = data[v * w + u];
    }
  return { width: w, height: h, data: out };
}

/** A picture, and how sharp it is. */
interface Judged {
  readonly rep: Representation;
  readonly energy: Places;
}

/** A picture softened where it is sharper than another. @param wanted gradient energy of the other, place by place */
function softened(source: Luminance, floor: number, { rep, energy }: Judged, wanted: Places): Representation {
  const { width: w, height: h } = source;
  const want = wanted.data;
  const n = want.length;
  /** steps after which a place is as soft as the other one */
  const step = new Float32Array(n);
  /** places that are not yet, the first `left` of them */
  const places = new Int32Array(n);
  let left = 0;
  for (let i = 0; i < n; i++) if (energy.data[i] > want[i]) places[left++] = i;
  const values = [rep.value];
  let light = source.light;
  let before = energy.data;
  for (let k = 0; k < STEPS.length && left > FEW * n; k++) {
    light = boxMean(light, w, h, STEPS[k]);
    const softer = logLuminance({ ...source, light }, floor);
    const after = gradientEnergy(softer).data;
    values.push(softer.value);
    let kept = 0;
    for (let j = 0; j < left; j++) {
      const i = places[j];
      if (after[i] > want[i]) places[kept++] = i;
      else step[i] = k + between(before[i] + LEAST, want[i] + LEAST, after[i] + LEAST);
    }
    left = kept;
    before = after;
  }
  const last = values.length - 1;
  if (last === 0) return rep;
  for (let j = 0; j < left; j++) step[places[j]] = last;
  const even = boxMean(step, energy.width, energy.height, WINDOW);
  return mixed(rep, values, { ...energy, data: even });
}

/** Where a value lies between a larger and a smaller one on the logarithmic scale, 0…1. */
const between = (larger: number, value: number, smaller: number): number =>
  Math.min(1, Math.max(0, Math.log(larger / value) / Math.max(1e-9, Math.log(larger / smaller))));

/** A picture mixed from softer and softer ones. @param steps 0 is the first of them alone, 1 the second; what needs all steps takes no part */
function mixed(rep: Representation, values: readonly Float32Array[], steps: Places): Representation {
  const { width: w, height: h } = rep;
  const value = new Float32Array(w * h);
  const variance = Float32Array.from(rep.variance);
  const last = values.length - 1;
  for (let y = 0, i = 0; y < h; y++) {
    const row = (y >> 1) * steps.width;
    for (let x = 0; x < w; x++, i++) {
      const at = steps.data[row + (x >> 1)];
      const k = at < last ? Math.floor(at) : last - 1;
      const share = at - k;
      value[i] = (1 - share) * values[k][i] + share * values[k + 1][i];
      if (at > STEPS.length - 0.5) variance[i] = NO_PART;
    }
  }
  return { ...rep, value, variance };
}

/**
 * Two pictures of one level, focused differently, each softened in linear light where it is the sharper one, until both have the same
 * gradient energy place by place: what one blurs and the other does not would pull a fit towards the dark side of every edge. What is
 * sharper beyond all steps takes no part.
 * @param map reference pixel → frame pixel, at this level
 * @param floor added to light before its logarithm is taken
 */
export function equalSoftness(
  reference: Luminance,
  frame: Luminance,
  map: Matrix3,
  floor: number,
): { readonly reference: Representation; readonly frame: Representation } {
  const judged = (source: Luminance): Judged => {
    const rep = logLuminance(source, floor);
    return { rep, energy: gradientEnergy(rep) };
  };
  const [own, other] = [judged(reference), judged(frame)];
  return {
    reference: softened(reference, floor, own, laid(other.energy, map)),
    frame: softened(frame, floor, other, laid(own.energy, invert(map))),
  };
}
