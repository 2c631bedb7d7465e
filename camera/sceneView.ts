import { emptyRaster, type Raster } from '@/core/raster/raster';
import { arctangent } from './arctangent';

/** Which directions a picture of the scene shows: a flat one by its horizontal field, a round one by longitude and latitude, degrees. */
export type SceneField =
  | { readonly kind: 'flat'; readonly across: number }
  | { readonly kind: 'round'; readonly across: number; readonly down: number };

/** Part of a scene's picture, within its borders, that shows other light than the scene itself. */
export interface LightPatch {
  /** where its first pixel lies */
  readonly left: number;
  readonly top: number;
  readonly light: Raster;
}

/** The light of a scene. */
export interface SceneLight {
  /** scene-linear radiance */
  readonly light: Raster;
  /** what lies over the light, later ones over earlier ones: little of a scene moves, and all of it is large */
  readonly over?: readonly LightPatch[];
}

/** A scene as it can be shot: its light, how far away each point is, and which directions its pixels are. */
export interface SceneView extends SceneLight {
  /** metres along the ray for each pixel; absent where everything counts as far */
  readonly distance?: Float32Array;
  readonly field: SceneField;
}

/** A part of the scene's picture as it is seen, what lies over it included. */
export function lightWithin(
  { light, over = [] }: SceneLight,
  left: number,
  top: number,
  width: number,
  height: number,
): LightPatch {
  const part = emptyRaster(width, height);
  for (const from of [{ left: 0, top: 0, light }, ...over]) {
    const [x0, x1] = [Math.max(left, from.left), Math.min(left + width, from.left + from.light.width)];
    const y1 = Math.min(top + height, from.top + from.light.height);
    if (x0 >= x1) continue;
    for (let y = Math.max(top, from.top); y < y1; y++) {
      const at = (y - from.top) * from.light.width - from.left;
      part.planes.forEach((plane, c) =>
        plane.set(from.light.planes[c].subarray(at + x0, at + x1), (y - top) * width + x0 - left),
      );
    }
  }
  return { left, top, light: part };
}

/** The scene's picture as it is seen. */
export function wholeLight(scene: SceneLight): Raster {
  const { light, over = [] } = scene;
  return over.length === 0 ? light : lightWithin(scene, 0, 0, light.width, light.height).light;
}

const DEGREE = Math.PI / 180;

/** Writes the scene pixel of a direction (x right, y down, z ahead) into `at`. */
export type DirectionMap = (x: number, y: number, z: number, at: Float64Array) => void;

/** Direction → pixel of the scene's picture. */
export function sceneMap({ light: { width, height }, field }: SceneView): DirectionMap {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  if (field.kind === 'flat') {
    const focal = width / 2 / Math.tan((field.across * DEGREE) / 2);
    return (x, y, z, at) => {
      at[0] = (focal * x) / z + cx;
      at[1] = (focal * y) / z + cy;
    };
  }
  const [perX, perY] = [width / (field.across * DEGREE), height / (field.down * DEGREE)];
  return (x, y, z, at) => {
    at[0] = arctangent(x, z) * perX + cx;
    at[1] = arctangent(y, Math.sqrt(x * x + z * z)) * perY + cy;
  };
}

/** Scene pixels a radian in the middle of the picture. */
export function sceneScale({ light: { width }, field }: SceneView): number {
  return field.kind === 'flat'
    ? width / 2 / Math.tan((field.across * DEGREE) / 2)
    : width / (field.across * DEGREE);
}
