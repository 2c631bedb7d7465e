import { type Raster } from '@/core/raster/raster';
import { lightWithin, type SceneView } from './sceneView';

/** A cut-out: light multiplied by its opacity, so that what only glows adds up. */
export interface Plate {
  readonly light: Raster;
  readonly alpha: Float32Array;
  readonly perMetre: number;
  /** the point that stands on the ground, pixels */
  readonly foot: readonly [x: number, y: number];
}

/** Where a plate stands in a flat picture of the scene, and how it moves while the shutter is open. */
export interface Placing {
  /** scene pixels */
  readonly x: number;
  readonly y: number;
  /** metres from the camera; what is nearer hides the plate */
  readonly distance: number;
  /** way covered while the shutter is open, metres to the right */
  readonly moves?: number;
}

/** metres by which a thing may stand nearer than the plate's foot and still lie behind it */
const BODY = 0.35;
/** a plate that moves by less than this, its own pixels, stands still */
const STILL = 1;

/** The scene with a plate standing in it, over everything behind its distance, blurred by its way during the exposure. */
export function withPlate(scene: SceneView, plate: Plate, { x, y, distance, moves = 0 }: Placing): SceneView {
  const { light, field } = scene;
  if (field.kind !== 'flat') throw new RangeError('a plate stands in a flat picture');
  const { width, height } = light;
  const focal = width / 2 / Math.tan((field.across * Math.PI) / 360);
  const perMetre = focal / distance;
  const scale = plate.perMetre / perMetre;
  const way = moves * perMetre;
  const window = Math.abs(way) * scale;
  const sampled = window < STILL ? [...plate.light.planes, plate.alpha] : sumsAlongRows(plate);
  const [footX, footY] = plate.foot;
  const far = scene.distance?.slice();
  const reach = Math.abs(way) / 2 + 1;
  const left = Math.max(0, Math.floor(x - footX / scale - reach));
  const right = Math.min(width - 1, Math.ceil(x + (plate.light.width - footX) / scale + reach));
  const top = Math.max(0, Math.floor(y - footY / scale));
  const bottom = Math.min(height - 1, Math.ceil(y + (plate.light.height - footY) / scale));
  if (right < left || bottom < top) return scene;
  const patch = lightWithin(scene, left, top, right - left + 1, bottom - top + 1);
  const { planes, width: across } = patch.light;
  const sum = new Float64Array(4);
  for (let v = top; v <= bottom; v++)
    for (let u = left; u <= right; u++) {
      const at = v * width + u;
      if (scene.distance && scene.distance[at] < distance - BODY) continue;
      sum.fill(0);
      const [pu, pv] = [footX + (u - x) * scale, footY + (v - y) * scale];
      if (window < STILL) addSample(sampled, plate.light, pu, pv, 1, sum);
      else {
        // a mean along the way is the difference of two sums
        const end = Math.max(0, Math.min(plate.light.width - 1.001, pu + window / 2));
        const start = Math.max(0, Math.min(plate.light.width - 1.001, pu - window / 2));
        addSample(sampled, plate.light, end, pv, 1 / window, sum);
        addSample(sampled, plate.light, start, pv, -1 / window, sum);
      }
      const through = 1 - sum[3];
      const own = (v - top) * across + u - left;
      for (let c = 0; c < 3; c++) planes[c][own] = planes[c][own] * through + sum[c];
      if (far && through < 0.5) far[at] = distance;
    }
  return { ...scene, over: [...(scene.over ?? []), patch], ...(far ? { distance: far } : {}) };
}

/** Light and opacity of a plate, each summed up along its rows. */
function sumsAlongRows({ light: { width, planes }, alpha }: Plate): Float64Array[] {
  return [...planes, alpha].map((plane) => {
    const sums = new Float64Array(plane.length);
    for (let i = 0; i < plane.length; i++) sums[i] = (i % width === 0 ? 0 : sums[i - 1]) + plane[i];
    return sums;
  });
}

/** Adds a share of light and opacity at a place of the plate, bilinear; nothing outside. */
function addSample(
  planes: readonly (Float32Array | Float64Array)[],
  { width, height }: Raster,
  u: number,
  v: number,
  share: number,
  sum: Float64Array,
): void {
  const x = Math.floor(u);
  const y = Math.floor(v);
  if (x < 0 || y < 0 || x >= width - 1 || y >= height - 1) return;
  const [fx, fy] = [u - x, v - y];
  const at = y * width + x;
  for (let c = 0; c < 4; c++) {
    const p = planes[c];
    sum[c] +=
      share *
      ((p[at] * (1 - fx) + p[at + 1] * fx) * (1 - fy) +
        (p[at + width] * (1 - fx) + p[at + width + 1] * fx) * fy);
  }
}
