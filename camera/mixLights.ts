import { emptyRaster, type Raster } from '@/core/raster/raster';

/** One light of the scene and how bright it is turned. */
export interface Light {
  readonly light: Raster;
  readonly amount: number;
}

/** Adds the lights of a scene up: light is linear, so any dusk is a weighted sum. All lights must have one size. */
export function mixLights(lights: readonly Light[]): Raster {
  const [first] = lights;
  const scene = emptyRaster(first.light.width, first.light.height);
  for (const { light, amount } of lights)
    scene.planes.forEach((sum, c) => {
      const plane = light.planes[c];
      for (let i = 0; i < sum.length; i++) sum[i] += amount * plane[i];
    });
  return scene;
}
