import { existsSync, readFileSync } from 'node:fs';
import { DUSK, SCENE_FIELD } from '@/camera/demoPlan';
import { type DemoScenes, type LightMix } from '@/camera/demoSets';
import { type Light, mixLights, readDistance } from '@/camera/mixLights';
import { type SceneView } from '@/camera/sceneView';

/** A rendered pass as it lies in the repository, strip by strip. @param root ends with a slash */
function strips(root: string, name: string): Uint8Array[] {
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

/** The rendered lights of the scene, turned to the demo's dusk. @param root ends with a slash */
export function sceneLights(root: string): Light[] {
  return Object.entries(DUSK).map(([light, amount]) => ({ strips: strips(root, `mill.${light}`), amount }));
}

/** Field of the picture all round the mill, degrees. */
const ROUND = { kind: 'round', across: 200, down: 60 } as const;

/** The scenes of the demo, each read when it is first asked for. */
export function demoScenes(root: string): DemoScenes {
  const passes = new Map<string, Light>();
  const pass = (name: string, amount: number): Light => {
    const known = passes.get(name) ?? { strips: strips(root, name), amount: 1 };
    passes.set(name, known);
    return { ...known, amount };
  };
  let distance: Float32Array | undefined;
  return {
    mill: ({ sky, sun, lamp, stand }: LightMix): SceneView => {
      const lights = [
        pass('mill.sky', sky),
        pass('mill.sun', sun),
        pass('mill.lamp', lamp),
        ...(stand > 0 ? [pass('mill.stand', stand)] : []),
      ].filter((l) => l.amount > 0);
      distance ??= readDistance(strips(root, 'mill.z'));
      return { light: mixLights(lights), distance, field: { kind: 'flat', across: SCENE_FIELD } };
    },
    round: () => ({
      light: mixLights([pass('round.all', 1)]),
      distance: readDistance(strips(root, 'round.z')),
      field: ROUND,
    }),
  };
}
