import { type Raster } from '@/core/raster/raster';
import { type Matrix3 } from '@/core/raster/matrix3';
import { defocus } from './defocus';
import { gatherLight, LENS_SIGMA, type Looks, type LooksAt, looksOfFrame } from './gatherLight';
import { circleOfConfusion, diffractionSigma, focalPixels, type Lens } from './lens';
import { type Pose, rotation } from './pose';
import { sceneMap, sceneScale, type SceneView } from './sceneView';

/** Where the camera stands and looks. */
export interface Stand extends Pose {
  /** metres from the scene's own viewpoint: right, down, ahead; parallax comes from it */
  readonly shift?: readonly [number, number, number];
}

/** What the lens puts on the sensor, before light becomes signal. */
export interface ThroughLens {
  /** linear radiance on the frame's pixels */
  readonly light: Raster;
  /** the same without defocus: everything sharp */
  readonly sharp: Raster;
  /** metres along the ray for each pixel; infinite where the scene has none */
  readonly distance: Float32Array;
  readonly focalPx: number;
  /** camera → scene direction */
  readonly turn: Matrix3;
}

const PASSES = 5;
/** a point that moves by less than this angle, radians, has been found */
const SETTLED = 2e-6;
/** the circle of confusion changes nothing below this radius, pixels */
const SHARP = 0.35;

/** The scene through a lens, for a frame of `width` × `height` pixels: pose, parallax, distortion, lateral colour, defocus, diffraction. */
export function lookThrough(
  scene: SceneView,
  lens: Lens,
  stand: Stand,
  width: number,
  height: number,
): ThroughLens {
  const focalPx = focalPixels(lens, width);
  const turn = rotation(stand);
  const sigma = (Math.hypot(LENS_SIGMA, diffractionSigma(lens, width)) * sceneScale(scene)) / focalPx;
  const { light: full } = scene;
  const green = looksOfFrame(width, height, looksAt(scene, lens, stand, turn, focalPx, width, height, 0));
  const distance = distances(scene, green);
  const looks = (colour: number): Looks =>
    colour === 0
      ? green
      : lateralLooks(
          green,
          1 + colour * lens.lateral,
          looksAt(scene, lens, stand, turn, focalPx, width, height, colour, distance),
        );
  const planes = gatherLight(full, lens.lateral === 0 ? green : [1, 0, -1].map(looks), sigma);
  const sharp: Raster = { width, height, planes };
  const radii = distance.map(
    (d) => (0.5 * circleOfConfusion(lens, Number.isFinite(d) ? d : 1e6) * width) / lens.sensorWidth,
  );
  const light = radii.some((r) => Math.abs(r) > SHARP) ? defocus(sharp, radii) : sharp;
  return { light, sharp, distance, focalPx, turn };
}

/** To the neighbour on the side that a step goes to, or the other one at the border. */
const inward = (step: number, at: number, size: number): number =>
  step < 0 ? (at > 0 ? -1 : 1) : at + 1 < size ? 1 : -1;

/** a neighbour's place farther than this, scene pixels, belongs to something else */
const SAME_THING = 4;

/**
 * Where red or blue look: green's places, scaled about the middle. Between neighbours that see the same thing that is a step along them; at
 * the outlines of things it is followed anew.
 */
function lateralLooks({ width, height, places }: Looks, grows: number, exactly: LooksAt): Looks {
  const out = new Float64Array(places.length);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const by = 1 / grows - 1;
  const at = new Float64Array(2);
  for (let y = 0, o = 0; y < height; y++) {
    const fy = (y - cy) * by;
    const down = inward(fy, y, height);
    for (let x = 0; x < width; x++, o += 2) {
      const fx = (x - cx) * by;
      const across = inward(fx, x, width);
      const i = o + 2 * across;
      const j = o + 2 * width * down;
      const [ux, vx] = [places[i] - places[o], places[i + 1] - places[o + 1]];
      const [uy, vy] = [places[j] - places[o], places[j + 1] - places[o + 1]];
      if (Math.max(Math.abs(ux), Math.abs(vx), Math.abs(uy), Math.abs(vy)) > SAME_THING) {
        exactly(x, y, at);
        out[o] = at[0];
        out[o + 1] = at[1];
        continue;
      }
      out[o] = places[o] + fx * across * ux + fy * down * uy;
      out[o + 1] = places[o + 1] + fx * across * vx + fy * down * vy;
    }
  }
  return { width, height, places: out };
}

/**
 * Frame pixel → scene pixel.
 * @param colour 1 for red, 0 for green, −1 for blue
 * @param known how far away each pixel of the frame is, where that is known: spares the search along the ray
 */
function looksAt(
  scene: SceneView,
  lens: Lens,
  { shift }: Stand,
  turn: Matrix3,
  focalPx: number,
  width: number,
  height: number,
  colour: number,
  known?: Float32Array,
): LooksAt {
  const map = sceneMap(scene);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = 0.5 * Math.hypot(width, height);
  const grows = 1 + colour * lens.lateral;
  const { distance, light } = scene;
  const moved = shift ? Math.hypot(...shift) : 0;
  return (px, py, at) => {
    let u = (px - cx) / grows;
    let v = (py - cy) / grows;
    if (lens.distortion !== 0) {
      // seen = true · (1 + k r²), turned round by a few passes
      let bend = 1;
      for (let pass = 0; pass < PASSES; pass++)
        bend = 1 + (lens.distortion * (u * u + v * v)) / (bend * bend * corner * corner);
      u /= bend;
      v /= bend;
    }
    const X = turn[0] * u + turn[1] * v + turn[2] * focalPx;
    const Y = turn[3] * u + turn[4] * v + turn[5] * focalPx;
    const Z = turn[6] * u + turn[7] * v + turn[8] * focalPx;
    if (shift && distance) {
      const k = 1 / Math.sqrt(X * X + Y * Y + Z * Z);
      const rx = X * k;
      const ry = Y * k;
      const rz = Z * k;
      const nearer = shift[0] * rx + shift[1] * ry + shift[2] * rz;
      let met = known ? known[py * width + px] : -1;
      if (!known) {
        map(X, Y, Z, at);
        met = nearestOf(distance, light, at[0], at[1]);
      }
      if (!Number.isFinite(met)) {
        if (known) map(X, Y, Z, at);
        return;
      }
      // the point that the ray meets lies at t along it from where the camera now is
      for (let pass = 0; pass < PASSES; pass++) {
        const t = Math.max(0.05, met - nearer);
        map(rx * t + shift[0], ry * t + shift[1], rz * t + shift[2], at);
        if (known) return;
        const d = nearestOf(distance, light, at[0], at[1]);
        if (!Number.isFinite(d) || Math.abs(d - met) * moved < SETTLED * d * d) return;
        met = d;
      }
    } else map(X, Y, Z, at);
  };
}

function nearestOf(plane: Float32Array, { width, height }: Raster, u: number, v: number): number {
  const x = Math.max(0, Math.min(width - 1, Math.round(u)));
  const y = Math.max(0, Math.min(height - 1, Math.round(v)));
  return plane[y * width + x];
}

function distances({ distance, light }: SceneView, { width, height, places }: Looks): Float32Array {
  const out = new Float32Array(width * height).fill(Infinity);
  if (distance)
    for (let o = 0; o < out.length; o++)
      out[o] = nearestOf(distance, light, places[2 * o], places[2 * o + 1]);
  return out;
}
