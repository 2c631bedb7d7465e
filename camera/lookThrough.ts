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
/** metres beyond which a thing is as good as at infinity */
const FARTHEST = 1e6;
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
  const rays = (colour: number): Rays => raysOf(lens, turn, focalPx, width, height, colour);
  const { green, distance } = followRays(scene, rays(0), stand.shift, width, height);
  const looks = (colour: number): Looks =>
    colour === 0
      ? green
      : lateralLooks(
          green,
          1 + colour * lens.lateral,
          looksAt(scene, rays(colour), stand.shift, distance, width),
        );
  const planes = gatherLight(scene, lens.lateral === 0 ? green : [1, 0, -1].map(looks), sigma);
  const sharp: Raster = { width, height, planes };
  const radii = new Float32Array(distance.length);
  let widest = 0;
  // the circle of confusion is a straight line over one by the distance
  const perMm = (0.5 * width) / lens.sensorWidth;
  const far = perMm * circleOfConfusion(lens, FARTHEST);
  const near = (perMm * circleOfConfusion(lens, 1) - far) / (1 - 1 / FARTHEST);
  for (let i = 0; i < radii.length; i++) {
    const r = far + near * (1 / distance[i] - 1 / FARTHEST);
    radii[i] = r;
    if (r > widest) widest = r;
    else if (-r > widest) widest = -r;
  }
  const light = widest > SHARP ? defocus(sharp, radii) : sharp;
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

/** Writes the direction, of length 1, in which a pixel of the frame looks into `ray`. */
type Rays = (px: number, py: number, ray: Float64Array) => void;

/** steps of the square of the radius up to the corner; between them the curve is straight to less than 1e-8 */
const BEND_STEPS = 1024;
/** share of the corner's square up to which the curve is kept: red and blue look a little farther out */
const BEYOND = 1.1;

/** True radius over seen one for every step of the square of the seen one: seen = true · (1 + k r²), turned round by a few passes. */
function straightened(k: number): Float64Array {
  return Float64Array.from({ length: Math.ceil(BEND_STEPS * BEYOND) }, (_, i) => {
    let bend = 1;
    for (let pass = 0; pass < PASSES; pass++) bend = 1 + (k * i) / (BEND_STEPS * bend * bend);
    return 1 / bend;
  });
}

/** @param colour 1 for red, 0 for green, −1 for blue */
function raysOf(
  lens: Lens,
  turn: Matrix3,
  focalPx: number,
  width: number,
  height: number,
  colour: number,
): Rays {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = 0.25 * (width * width + height * height);
  const perSquare = BEND_STEPS / corner;
  const bends = lens.distortion === 0 ? undefined : straightened(lens.distortion);
  const last = bends ? bends.length - 2 : 0;
  const grows = 1 + colour * lens.lateral;
  return (px, py, ray) => {
    let u = (px - cx) / grows;
    let v = (py - cy) / grows;
    if (bends) {
      const t = Math.min(last, (u * u + v * v) * perSquare);
      const k = t | 0;
      const bend = bends[k] + (t - k) * (bends[k + 1] - bends[k]);
      u *= bend;
      v *= bend;
    }
    const X = turn[0] * u + turn[1] * v + turn[2] * focalPx;
    const Y = turn[3] * u + turn[4] * v + turn[5] * focalPx;
    const Z = turn[6] * u + turn[7] * v + turn[8] * focalPx;
    const k = 1 / Math.sqrt(X * X + Y * Y + Z * Z);
    ray[0] = X * k;
    ray[1] = Y * k;
    ray[2] = Z * k;
  };
}

/** Frame pixel → scene pixel, where it is known how far away every pixel of the frame is. */
function looksAt(
  scene: SceneView,
  rays: Rays,
  shift: Stand['shift'],
  distance: Float32Array,
  width: number,
): LooksAt {
  const map = sceneMap(scene);
  const ray = new Float64Array(3);
  return (px, py, at) => {
    rays(px, py, ray);
    const [rx, ry, rz] = ray;
    const met = distance[py * width + px];
    if (!shift || !Number.isFinite(met)) {
      map(rx, ry, rz, at);
      return;
    }
    const t = Math.max(NEAREST, met - (shift[0] * rx + shift[1] * ry + shift[2] * rz));
    map(rx * t + shift[0], ry * t + shift[1], rz * t + shift[2], at);
  };
}

/** a camera comes no nearer to a thing than this, metres */
const NEAREST = 0.05;
/** pixels of a row between two that are looked up without parallax; only the first guess between them comes from a straight line */
const STRIDE = 16;
/** distances whose ratio differs from 1 by less than this belong to one thing */
const ONE_THING = 0.03;

/**
 * Where every pixel of a frame looks, and how many metres away that is along the ray. A camera that is shifted meets the scene where the
 * ray's distance and the scene's agree; the search begins with what the pixel to the left has met, as long as the scene without parallax
 * shows that thing here too, and with the latter otherwise.
 */
function followRays(
  scene: SceneView,
  rays: Rays,
  shift: Stand['shift'],
  width: number,
  height: number,
): { green: Looks; distance: Float32Array } {
  const map = sceneMap(scene);
  const { distance: depth, light } = scene;
  const found = new Float32Array(width * height).fill(Infinity);
  const ray = new Float64Array(3);
  if (!shift || !depth) {
    const green = looksOfFrame(width, height, (px, py, at) => {
      rays(px, py, ray);
      map(ray[0], ray[1], ray[2], at);
    });
    if (depth)
      for (let o = 0; o < found.length; o++)
        found[o] = nearestOf(depth, light, green.places[2 * o], green.places[2 * o + 1]);
    return { green, distance: found };
  }
  const moved = Math.hypot(...shift);
  const [right, down, ahead] = shift;
  const places = new Float64Array(2 * width * height);
  const at = new Float64Array(2);
  let [u0, v0, u1, v1] = [0, 0, 0, 0];
  for (let y = 0, o = 0; y < height; y++) {
    let met = -1;
    for (let x = 0; x < width; x++, o++) {
      if (x % STRIDE === 0) {
        if (x === 0) {
          rays(x, y, ray);
          map(ray[0], ray[1], ray[2], at);
          u1 = at[0];
          v1 = at[1];
        }
        rays(x + STRIDE, y, ray);
        map(ray[0], ray[1], ray[2], at);
        [u0, v0, u1, v1] = [u1, v1, at[0], at[1]];
      }
      rays(x, y, ray);
      const rx = ray[0];
      const ry = ray[1];
      const rz = ray[2];
      const part = (x % STRIDE) / STRIDE;
      const guess = nearestOf(depth, light, u0 + part * (u1 - u0), v0 + part * (v1 - v0));
      if (!(Math.abs(guess - met) < ONE_THING * guess)) met = guess;
      if (Number.isFinite(met)) {
        const nearer = right * rx + down * ry + ahead * rz;
        // the point that the ray meets lies at t along it from where the camera now is
        for (let pass = 0; pass < PASSES; pass++) {
          const t = Math.max(NEAREST, met - nearer);
          map(rx * t + right, ry * t + down, rz * t + ahead, at);
          const d = nearestOf(depth, light, at[0], at[1]);
          const settled = !Number.isFinite(d) || Math.abs(d - met) * moved < SETTLED * d * d;
          met = d;
          if (settled) break;
        }
      } else map(rx, ry, rz, at);
      places[2 * o] = at[0];
      places[2 * o + 1] = at[1];
      found[o] = met;
    }
  }
  return { green: { width, height, places }, distance: found };
}

function nearestOf(plane: Float32Array, { width, height }: Raster, u: number, v: number): number {
  const x = u <= 0 ? 0 : u >= width - 1 ? width - 1 : (u + 0.5) | 0;
  const y = v <= 0 ? 0 : v >= height - 1 ? height - 1 : (v + 0.5) | 0;
  return plane[y * width + x];
}
