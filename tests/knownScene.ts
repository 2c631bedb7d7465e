import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { DUSK } from '@/camera/demoPlan';
import { mixLights } from '@/camera/mixLights';
import { readLight } from '@/camera/readLight';
import { type Raster, sharedFloats } from '@/core/raster/raster';
import { sceneLights, strips } from '@/scripts/sceneLights';
import { heldLight } from './heldLight';

/** The stand-in mill at dusk, scene-linear; the working folder is the project's. */
export function millAtDusk(): Raster {
  const passes = Object.keys(DUSK).flatMap((light) => strips('./', `mill.${light}`));
  return heldLight([JSON.stringify(DUSK), ...passes], () => mixLights(sceneLights('./')));
}

/**
 * A real high-dynamic-range environment carried by the registry (npm @pmndrs/assets 1.7.0, CC0, 512 × 256), scaled up by smooth
 * interpolation of its logarithm: real radiance and real contrast, no finer detail than it has.
 */
export function realEnvironment(name: string, width: number, height: number): Raster {
  const find = createRequire(import.meta.url);
  const file = find.resolve(`@pmndrs/assets/hdri/${name}.exr.js`);
  const source = readFileSync(file, 'utf8');
  const encoded = /base64,([A-Za-z0-9+/=]+)/.exec(source)?.[1];
  if (!encoded) throw new Error(`${file} holds no picture`);
  const map = heldLight([encoded], () => readLight([Uint8Array.from(Buffer.from(encoded, 'base64'))]));
  const planes = map.planes.slice(0, 3).map((plane) => enlarge(plane, map.width, map.height, width, height));
  return { width, height, planes };
}

/** Cubic interpolation (Catmull & Rom 1974) of the logarithm. */
function enlarge(plane: Float32Array, w: number, h: number, width: number, height: number): Float32Array {
  // the maps hold a few negative samples, which no light has
  const log = plane.map((v) => Math.log(Math.max(0, v) + 1e-4));
  const out = sharedFloats(width * height);
  const weights = (t: number): number[] => [
    ((-t + 2) * t - 1) * t * 0.5,
    ((3 * t - 5) * t * t + 2) * 0.5,
    ((-3 * t + 4) * t + 1) * t * 0.5,
    (t - 1) * t * t * 0.5,
  ];
  for (let y = 0; y < height; y++) {
    const v = ((y + 0.5) * h) / height - 0.5;
    const iv = Math.floor(v);
    const wy = weights(v - iv);
    for (let x = 0; x < width; x++) {
      const u = ((x + 0.5) * w) / width - 0.5;
      const iu = Math.floor(u);
      const wx = weights(u - iu);
      let sum = 0;
      for (let j = 0; j < 4; j++) {
        const row = Math.min(h - 1, Math.max(0, iv - 1 + j)) * w;
        for (let i = 0; i < 4; i++)
          sum += wy[j] * wx[i] * log[row + Math.min(w - 1, Math.max(0, iu - 1 + i))];
      }
      out[y * width + x] = Math.exp(sum) - 1e-4;
    }
  }
  return out;
}
