import { existsSync, readFileSync } from 'node:fs';
import { DUSK } from '@/camera/demoPlan';
import { type Light } from '@/camera/mixLights';

/** The rendered lights of the scene as they lie in the repository, turned to the demo's dusk. @param root ends with a slash */
export function sceneLights(root: string): Light[] {
  return Object.entries(DUSK).map(([light, amount]) => {
    const strips: Uint8Array[] = [];
    for (let k = 0; ; k++) {
      const file = `${root}scene/renders/mill.${light}.${k}.exr`;
      if (!existsSync(file)) break;
      strips.push(readFileSync(file));
    }
    if (strips.length === 0)
      throw new Error(`scene/renders/mill.${light}.0.exr is missing. Run “npm run demo:render”.`);
    return { strips, amount };
  });
}
