import { type EncodedImage } from '../raster/encodedImage';
import { srgbToLinear } from '../raster/srgb';
import { inflate } from './inflate';
import { type LightRig, towards } from './light';

/** The light that a plate was taken in, as its shading tells it. */
export interface ShadedBy {
  readonly rig: LightRig;
  /** light from everywhere that would make it as bright on the whole */
  readonly even: LightRig;
  /** light of its sun against its mean; below {@link ENOUGH} the direction is not to be trusted */
  readonly contrast: number;
}

/**
 * Contrast from which a direction may be believed. Of six plates under known lights the four above it (a heron, under two lights) were 8° to 18° off in
 * azimuth; below it a heron in weak light was wrong, and so was a boat: a hollow thing is taken for a full one.
 */
export const ENOUGH = 1.5;
/** square pixels of height from which a normal counts: nearer the edge the background shines through */
const WITHIN = 25;
/** places of the plate that are looked at, at most */
const MOST = 4000;
const LEAST = 200;
/** degrees between the directions that are tried */
const STEP = 10;
/** share of light that a thing throws back on the whole, where nothing is known of it: mid grey (common practice) */
const ALBEDO = 0.18;

/** A place of a plate: which way it looks (right, up, towards the camera), and how bright it is. */
type Place = readonly [right: number, up: number, toward: number, light: number];

/**
 * Light from shading: of all directions the one from which a sun, over light from above and everywhere, explains best how brightness goes with the
 * normals of the inflated silhouette, by least squares (the model of {@link LightRig}; Zheng and Chellappa, *Estimation of Illuminant
 * Direction, Albedo, and Shape from Shading*, 1991, for the task). What is dark or pale of itself leads it astray.
 * @param levels of the plate, with opacity
 * @returns undefined where too little of the plate is there
 */
export function plateLight(levels: readonly EncodedImage[]): ShadedBy | undefined {
  const places = placesOf(levels);
  if (places.length < LEAST) return undefined;
  const mean = places.reduce((sum, p) => sum + p[3], 0) / places.length;
  let best: { readonly azimuth: number; readonly elevation: number; readonly fit: Fit } | undefined;
  for (let azimuth = -180; azimuth < 180; azimuth += STEP)
    for (let elevation = STEP / 2; elevation < 80; elevation += STEP) {
      const fit = fitSun(places, azimuth, elevation);
      if (fit && fit.sun > 0 && fit.left < (best?.fit.left ?? Infinity)) best = { azimuth, elevation, fit };
    }
  const grey = (v: number) => [v / ALBEDO, v / ALBEDO, v / ALBEDO] as const;
  const even: LightRig = { sky: grey(mean), bounce: grey(mean), lamps: [] };
  if (!best) return { rig: even, even, contrast: 0 };
  const { azimuth, elevation, fit } = best;
  // half and half of sky and ground make what comes from everywhere, and their difference what rises upwards
  const sky = Math.max(0.02 * mean, fit.everywhere + fit.upwards);
  const bounce = Math.max(0, fit.everywhere - fit.upwards);
  return {
    rig: {
      sun: { azimuth, elevation, colour: grey(fit.sun) },
      ...{ sky: grey(sky), bounce: grey(bounce), lamps: [] },
    },
    even,
    contrast: fit.sun / mean,
  };
}

function placesOf(levels: readonly EncodedImage[]): Place[] {
  const { width, height, cell, values } = inflate(levels);
  const { data, alpha, white } = levels[Math.round(Math.log2(cell))];
  const inside = values.reduce((count, v) => count + (v < WITHIN ? 0 : 1), 0);
  const step = Math.max(1, Math.floor(Math.sqrt(inside / MOST)));
  const places: Place[] = [];
  for (let y = 1; y < height - 1; y += step)
    for (let x = 1; x < width - 1; x += step) {
      const i = y * width + x;
      if ((alpha && alpha[3 * i] < 250) || values[i] < WITHIN) continue;
      const dx = (values[i + 1] - values[i - 1]) / (2 * cell);
      const dy = (values[i + width] - values[i - width]) / (2 * cell);
      const facing = 2 * Math.sqrt(values[i]);
      const length = Math.sqrt(dx * dx + dy * dy + facing * facing);
      const light =
        0.2126 * srgbToLinear(data[3 * i] / white) +
        0.7152 * srgbToLinear(data[3 * i + 1] / white) +
        0.0722 * srgbToLinear(data[3 * i + 2] / white);
      places.push([-dx / length, dy / length, facing / length, light]);
    }
  return places;
}

/** Light from everywhere, more of it from above, and a sun; and the squares that they leave. */
interface Fit {
  readonly everywhere: number;
  readonly upwards: number;
  readonly sun: number;
  readonly left: number;
}

/** The strengths that explain a plate best under a sun from one direction; undefined where they cannot be told apart. */
function fitSun(places: readonly Place[], azimuth: number, elevation: number): Fit | undefined {
  const [right, up, ahead] = towards({ azimuth, elevation });
  const rows = [0, 1, 2].map(() => new Float64Array(4));
  let whole = 0;
  for (const [x, y, z, light] of places) {
    const terms = [1, y, Math.max(0, right * x + up * y - ahead * z)];
    for (let a = 0; a < 3; a++) {
      for (let b = 0; b < 3; b++) rows[a][b] += terms[a] * terms[b];
      rows[a][3] += terms[a] * light;
    }
    whole += light * light;
  }
  const given = rows.map((r) => r[3]);
  const solved = eliminated(rows);
  if (!solved) return undefined;
  const [everywhere, upwards, sun] = solved;
  const left = whole - solved.reduce((sum, v, k) => sum + v * given[k], 0);
  return { everywhere, upwards, sun, left };
}

/** Three equations solved by elimination; undefined where they say too little. */
function eliminated(rows: readonly Float64Array[]): number[] | undefined {
  for (let a = 0; a < rows.length; a++) {
    const pivot = rows[a][a];
    if (!(Math.abs(pivot) > 1e-9)) return undefined;
    const own = rows[a].map((v) => v / pivot);
    for (let k = 0; k < rows.length; k++) {
      const by = rows[k][a];
      if (k !== a) rows[k].forEach((v, b) => (rows[k][b] = v - by * own[b]));
    }
    rows[a].set(own);
  }
  return rows.map((r) => r[rows.length]);
}
