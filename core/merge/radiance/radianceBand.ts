import { type Kernels, kernels, planeBytes } from '../../kernels/kernels';
import { warpIntoKernels } from '../../kernels/warpKernel';
import { IDENTITY } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { coverage, plainWarp } from '../../raster/warp';
import { type FusionFrame, type MoverTakes } from '../fusionPlan';
import { takeMovers } from '../movers/takeMovers';
import { MIDDLING, type NoiseModel, signalVariance } from './noiseModel';
import { type Response } from './response';

/** A frame of a radiance merge: exposure relative to the reference, EV. */
export interface RadianceFrame extends FusionFrame {
  readonly stops: number;
}

/** A band of the radiance map. */
export interface RadianceBand {
  /** linear light at the reference's exposure, unbounded; R, G, B */
  readonly planes: readonly Float32Array[];
  /** [frame] weight share 0…1 */
  readonly shares: readonly Float32Array[];
}

/** a frame counts fully below the first share of white and not at all above the second: clipping is near there */
const FULL = 0.9;
const NONE = 0.985;
/** what a frame that holds nothing better counts: the pixel then comes from the darkest or the lightest frame alone */
const LAST_RESORT = 1e-9;

const STEPS = 1024;

/** A response as an even table over encoded 0…1, with the step that one code of the file makes. */
function decoded(curve: Float32Array, white: number): { light: Float32Array; step: Float32Array } {
  const light = new Float32Array(STEPS + 2);
  const step = new Float32Array(STEPS + 2);
  const codes = white === 255 ? 255 : 65535;
  for (let i = 0; i < light.length; i++) {
    const z = Math.min(255, (i / STEPS) * 255);
    const k = Math.min(254, Math.floor(z));
    light[i] = curve[k] + (z - k) * (curve[k + 1] - curve[k]);
    step[i] = ((curve[k + 1] - curve[k]) * 255) / codes;
  }
  return { light, step };
}

/**
 * Radiance of a rectangle of the reference's grid: every frame resampled once, brought to light by the response, and averaged by the
 * inverse of its variance (Granados 2010; Hasinoff 2010). One weight serves all three channels, by the channel nearest to
 * clipping, so that no colour comes from frames disagreeing at bright edges.
 */
export function radianceBand(
  frames: readonly RadianceFrame[],
  response: Response,
  area: Rectangle,
  feather: number,
  takes?: MoverTakes,
  noise: NoiseModel = MIDDLING,
): RadianceBand {
  const k = kernels();
  return k
    ? compiledRadianceBand(k, frames, response, area, feather, takes, noise)
    : plainRadianceBand(frames, response, area, feather, takes, noise);
}

const darkestOf = (frames: readonly RadianceFrame[]): number =>
  frames.reduce((best, f, i) => (f.stops < frames[best].stops ? i : best), 0);

function compiledRadianceBand(
  k: Kernels,
  frames: readonly RadianceFrame[],
  response: Response,
  area: Rectangle,
  feather: number,
  takes: MoverTakes | undefined,
  { shot, read }: NoiseModel,
): RadianceBand {
  const n = area.width * area.height;
  const plane = planeBytes(n);
  const darkest = darkestOf(frames);
  return k.borrow(() => {
    const pictures = frames.map(() => k.take(3 * plane));
    frames.forEach(({ image, matrix }, f) => warpIntoKernels(k, image, matrix, area, pictures[f], plane));
    if (takes) {
      const planes = pictures.map((at) => [0, 1, 2].map((c) => k.floats(at + c * plane, n)));
      takeMovers(planes, area, takes);
    }
    const sums = k.take(4 * plane);
    k.floats(sums, plane).fill(0);
    const shares = frames.map(() => k.take(plane));
    const stride = planeBytes(STEPS + 2);
    const tables = k.take(4 * stride);
    frames.forEach(({ image, matrix, stops }, f) => {
      k.floats(shares[f], n).fill(1);
      if (matrix.some((v, i) => v !== IDENTITY[i]))
        k.featherWeights(
          ...[shares[f], area.width, area.height, area.x, area.y, image.width - 1, image.height - 1, feather],
          ...matrix,
        );
      const curves = response.map((curve) => decoded(curve, image.white));
      [...curves.map(({ light }) => light), curves[1].step].forEach((table, c) =>
        k.floats(tables + c * stride, table.length).set(table),
      );
      k.addRadiance(
        ...[pictures[f], plane, n, tables, stride, STEPS, shares[f], 2 ** -stops, FULL, NONE],
        ...[image.white === 1 ? 1 : 0, f === darkest ? LAST_RESORT : 0, shot, read, sums],
      );
    });
    const light = [1, 2, 3].map((c) => sums + c * plane);
    const all = [...light, ...shares];
    k.overTotal(k.addresses(all), all.length, sums, n);
    const copy = (at: number): Float32Array => k.floats(at, n).slice();
    return { planes: light.map(copy), shares: shares.map(copy) };
  });
}

/** The plain form of {@link radianceBand}, which the kernels are held against. */
export function plainRadianceBand(
  frames: readonly RadianceFrame[],
  response: Response,
  area: Rectangle,
  feather: number,
  takes?: MoverTakes,
  noise: NoiseModel = MIDDLING,
): RadianceBand {
  const n = area.width * area.height;
  const pictures = frames.map((f) => plainWarp(f.image, f.matrix, area, 'lanczos'));
  if (takes) takeMovers(pictures, area, takes);
  const planes = [0, 1, 2].map(() => new Float32Array(n));
  const shares = frames.map(() => new Float32Array(n));
  const total = new Float32Array(n);
  const darkest = darkestOf(frames);
  frames.forEach((frame, f) => {
    const { image, matrix, stops } = frame;
    const whole = matrix.every((v, k) => v === IDENTITY[k]);
    const inside = whole ? undefined : coverage(image, matrix, area, feather);
    const tables = response.map((curve) => decoded(curve, image.white));
    const [R, G, B] = pictures[f];
    const scale = 2 ** -stops;
    const share = shares[f];
    const open = image.white === 1;
    for (let i = 0; i < n; i++) {
      const most = Math.max(R[i], G[i], B[i]);
      const t = open ? 1 : (NONE - most) / (NONE - FULL);
      const held = t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t);
      const r = lightAt(R[i], tables[0].light);
      const g = lightAt(G[i], tables[1].light);
      const b = lightAt(B[i], tables[2].light);
      const k = Math.min(STEPS, Math.max(0, (G[i] * STEPS) | 0));
      const variance =
        signalVariance(0.25 * r + 0.5 * g + 0.25 * b, tables[1].step[k], noise) * scale * scale;
      const covered = inside ? inside[i] : 1;
      const w = covered * (held / variance + (f === darkest ? LAST_RESORT / variance : 0) + 1e-20);
      share[i] = w;
      total[i] += w;
      planes[0][i] += w * r * scale;
      planes[1][i] += w * g * scale;
      planes[2][i] += w * b * scale;
    }
  });
  for (let i = 0; i < n; i++) {
    const k = total[i] > 0 ? 1 / total[i] : 0;
    for (const plane of planes) plane[i] *= k;
    for (const share of shares) share[i] *= k;
  }
  return { planes, shares };
}

/** Light of an encoded value; beyond the table the curve's last slope goes on. */
function lightAt(v: number, light: Float32Array): number {
  const t = v * STEPS;
  if (!(t > 0)) return light[0] + t * (light[1] - light[0]);
  if (t >= STEPS) return light[STEPS] + (t - STEPS) * (light[STEPS] - light[STEPS - 1]);
  const k = t | 0;
  return light[k] + (t - k) * (light[k + 1] - light[k]);
}
