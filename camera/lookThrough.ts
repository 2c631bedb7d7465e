import { type Raster } from '@/core/raster/raster';
import { type Matrix3 } from '@/core/raster/matrix3';
import { defocus } from './defocus';
import { gatherLight, LENS_SIGMA, type LooksAt } from './gatherLight';
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
  const gather = (light: Raster, colour: number): Float32Array[] =>
    gatherLight(light, {
      width,
      height,
      sigma,
      looksAt: looksAt(scene, lens, stand, turn, focalPx, width, height, colour),
    });
  const planes =
    lens.lateral === 0
      ? gather(scene.light, 0)
      : [1, 0, -1].flatMap((colour, c) =>
          gather({ ...scene.light, planes: [scene.light.planes[c]] }, colour),
        );
  const sharp: Raster = { width, height, planes };
  const distance = distances(
    scene,
    looksAt(scene, lens, stand, turn, focalPx, width, height, 0),
    width,
    height,
  );
  const radii = distance.map(
    (d) => (0.5 * circleOfConfusion(lens, Number.isFinite(d) ? d : 1e6) * width) / lens.sensorWidth,
  );
  const light = radii.some((r) => Math.abs(r) > SHARP) ? defocus(sharp, radii) : sharp;
  return { light, sharp, distance, focalPx, turn };
}

/** Frame pixel → scene pixel. @param colour 1 for red, 0 for green, −1 for blue */
function looksAt(
  scene: SceneView,
  lens: Lens,
  { shift }: Stand,
  turn: Matrix3,
  focalPx: number,
  width: number,
  height: number,
  colour: number,
): LooksAt {
  const map = sceneMap(scene);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = 0.5 * Math.hypot(width, height);
  const grows = 1 + colour * lens.lateral;
  const { distance, light } = scene;
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
    const [x, y, z] = [u, v, focalPx];
    let X = turn[0] * x + turn[1] * y + turn[2] * z;
    let Y = turn[3] * x + turn[4] * y + turn[5] * z;
    let Z = turn[6] * x + turn[7] * y + turn[8] * z;
    if (shift && distance) {
      const k = 1 / Math.hypot(X, Y, Z);
      const [rx, ry, rz] = [X * k, Y * k, Z * k];
      map(X, Y, Z, at);
      // the point that the ray meets lies at t along it from where the camera now is
      for (let pass = 0; pass < PASSES; pass++) {
        const d = nearestOf(distance, light, at);
        if (!Number.isFinite(d)) break;
        const t = Math.max(0.05, d - (shift[0] * rx + shift[1] * ry + shift[2] * rz));
        [X, Y, Z] = [rx * t + shift[0], ry * t + shift[1], rz * t + shift[2]];
        map(X, Y, Z, at);
      }
    }
    map(X, Y, Z, at);
  };
}

function nearestOf(plane: Float32Array, { width, height }: Raster, at: Float64Array): number {
  const x = Math.max(0, Math.min(width - 1, Math.round(at[0])));
  const y = Math.max(0, Math.min(height - 1, Math.round(at[1])));
  return plane[y * width + x];
}

function distances(scene: SceneView, look: LooksAt, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height).fill(Infinity);
  if (!scene.distance) return out;
  const at = new Float64Array(2);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      look(x, y, at);
      out[o] = nearestOf(scene.distance, scene.light, at);
    }
  return out;
}
