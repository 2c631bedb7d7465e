import { type Raster } from '@/core/raster/raster';
import { arctangent } from './arctangent';

/** Which directions a picture of the scene shows: a flat one by its horizontal field, a round one by longitude and latitude, degrees. */
export type SceneField =
  | { readonly kind: 'flat'; readonly across: number }
  | { readonly kind: 'round'; readonly across: number; readonly down: number };

/** A scene as it can be shot: its light, how far away each point is, and which directions its pixels are. */
export interface SceneView {
  /** scene-linear radiance */
  readonly light: Raster;
  /** metres along the ray for each pixel; absent where everything counts as far */
  readonly distance?: Float32Array;
  readonly field: SceneField;
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
