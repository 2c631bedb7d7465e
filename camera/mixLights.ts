import { DataUtils, FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { emptyRaster, type Raster } from '@/core/raster/raster';

/** One light of the scene: OpenEXR strips of three linear channels from top to bottom, and how bright it is turned. */
export interface Light {
  readonly strips: readonly Uint8Array[];
  readonly amount: number;
}

/** Adds the lights of a scene up: light is linear, so any dusk is a weighted sum. All lights must have one size. */
export function mixLights(lights: readonly Light[]): Raster {
  let scene: Raster | undefined;
  for (const { strips, amount } of lights) {
    const parts = strips.map(parseExr);
    scene ??= emptyRaster(
      parts[0].width,
      parts.reduce((rows, p) => rows + p.height, 0),
    );
    let top = 0;
    for (const { width, height, values, number } of parts) {
      const channels = values.length / (width * height);
      for (let y = 0, i = 0; y < height; y++)
        // the library gives rows from the bottom up
        for (let x = 0, at = (top + height - 1 - y) * width; x < width; x++, at++, i += channels)
          for (let c = 0; c < 3; c++) scene.planes[c][at] += amount * number(values[i + c]);
      top += height;
    }
  }
  return scene ?? emptyRaster(1, 1);
}

/** metres of the fog by which the depth pass codes distance, and the code from which there is only sky */
const FOG = 600;
const SKY_CODE = 0.9985;

/** Distances in metres along the ray from the strips of a depth pass, −600·ln(1 − f); infinite for the sky. */
export function readDistance(strips: readonly Uint8Array[]): Float32Array {
  const coded = mixLights([{ strips, amount: 1 }]).planes[1];
  return coded.map((f) => (f > SKY_CODE ? Infinity : -FOG * Math.log(1 - f)));
}

function parseExr(bytes: Uint8Array) {
  const loader = new EXRLoader();
  loader.setDataType(FloatType);
  const { width = 0, height = 0, data } = loader.parse(new Uint8Array(bytes).buffer);
  const values = data as Float32Array | Uint16Array;
  const number = values instanceof Uint16Array ? (v: number) => DataUtils.fromHalfFloat(v) : (v: number) => v;
  return { width, height, values, number };
}
