import { type Raster } from '@/core/raster/raster';
import { mixLights } from './mixLights';
import { type SceneField, type SceneView } from './sceneView';

/** How bright each light of a scene is turned; what is not named is out. */
export type LightMix = Readonly<Record<string, number>>;

/** A rendered scene as it lies in `scene/renders`. */
interface SceneFacts {
  readonly field: SceneField;
  /** passes of light, each a file of its own */
  readonly lights: readonly string[];
  /** metres by which its depth is coded */
  readonly fog: number;
}

/** The rendered scenes: the mill, the marsh all round it, a table with mugs, a samphire from near by. */
export const SCENES = {
  mill: { field: { kind: 'flat', across: 63 }, lights: ['sky', 'sun', 'lamp', 'stand'], fog: 600 },
  round: { field: { kind: 'round', across: 200, down: 60 }, lights: ['sky', 'sun', 'lamp'], fog: 600 },
  mugs: { field: { kind: 'flat', across: 36 }, lights: ['window', 'lamp'], fog: 2 },
  samphire: { field: { kind: 'flat', across: 33 }, lights: ['sky', 'sun'], fog: 1 },
} as const satisfies Record<string, SceneFacts>;

export type SceneName = keyof typeof SCENES;

const factsOf = (name: SceneName): SceneFacts => SCENES[name];

/** The passes of light that a mix needs, such as `mill.sky`. */
export function lightPasses(name: SceneName, mix: LightMix): string[] {
  return factsOf(name)
    .lights.filter((light) => (mix[light] ?? 0) > 0)
    .map((light) => `${name}.${light}`);
}

/** The pass that holds a scene's depth. */
export const depthPass = (name: SceneName): string => `${name}.z`;

/** The code of a depth pass from which there is only sky. */
const SKY_CODE = 0.9985;

/** Distances in metres along the ray from a depth pass, −fog·ln(1 − f); infinite for the sky. */
export function distancesOf(name: SceneName, coded: Raster): Float32Array {
  const { fog } = factsOf(name);
  return coded.planes[1].map((f) => (f > SKY_CODE ? Infinity : -fog * Math.log(1 - f)));
}

/**
 * A scene in a mix of its lights.
 * @param lights each pass of {@link lightPasses}, read
 * @param distance in metres along the ray
 */
export function sceneOf(
  name: SceneName,
  mix: LightMix,
  lights: ReadonlyMap<string, Raster>,
  distance: Float32Array,
): SceneView {
  const mixed = lightPasses(name, mix).flatMap((pass) => {
    const light = lights.get(pass);
    return light ? [{ light, amount: mix[pass.slice(name.length + 1)] ?? 0 }] : [];
  });
  if (mixed.length === 0) throw new RangeError(`${name} is dark: no light of it is on`);
  return { light: mixLights(mixed), distance, field: factsOf(name).field };
}
