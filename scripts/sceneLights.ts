import { existsSync, readFileSync } from 'node:fs';
import { DUSK } from '@/camera/demoPlan';
import { type DemoScenes } from '@/camera/demoSets';
import { type Light } from '@/camera/mixLights';
import { type Plate } from '@/camera/placePlate';
import { PLATES, plateOf } from '@/camera/plates';
import { readLight } from '@/camera/readLight';
import { depthPass, distancesOf, lightPasses, type LightMix, type SceneName, sceneOf } from '@/camera/scenes';
import { type SceneView } from '@/camera/sceneView';
import { type Raster } from '@/core/raster/raster';

/** A rendered pass as it lies in the repository, strip by strip. @param root ends with a slash */
export function strips(root: string, name: string): Uint8Array[] {
  const found: Uint8Array[] = [];
  for (let k = 0; ; k++) {
    const file = `${root}scene/renders/${name}.${k}.exr`;
    if (!existsSync(file)) break;
    found.push(readFileSync(file));
  }
  if (found.length === 0)
    throw new Error(`scene/renders/${name}.0.exr is missing. Run “npm run demo:render”.`);
  return found;
}

/** The rendered lights of the mill, turned to the demo's dusk. @param root ends with a slash */
export function sceneLights(root: string): Light[] {
  return Object.entries(DUSK).map(([light, amount]) => ({
    light: readLight(strips(root, `mill.${light}`)),
    amount,
  }));
}

/** The scenes and plates of the demo, each read when it is first asked for. @param root ends with a slash */
export function demoScenes(root: string): DemoScenes {
  const passes = new Map<string, Raster>();
  const pass = (name: string): Raster => {
    const light = passes.get(name) ?? readLight(strips(root, name));
    passes.set(name, light);
    return light;
  };
  const distances = new Map<SceneName, Float32Array>();
  const plates = new Map<string, Plate>();
  return {
    scene: (name: SceneName, mix: LightMix): SceneView => {
      lightPasses(name, mix).forEach(pass);
      const distance = distances.get(name) ?? distancesOf(name, pass(depthPass(name)));
      distances.set(name, distance);
      return sceneOf(name, mix, passes, distance);
    },
    plate: (name) => {
      const plate = plates.get(name) ?? plateOf(readLight(strips(root, `plate.${name}`)), PLATES[name]);
      plates.set(name, plate);
      return plate;
    },
  };
}
