import { DataUtils, FloatType } from 'three';
import { EXRLoader } from 'three/addons/loaders/EXRLoader.js';
import { emptyRaster, type Raster } from '@/core/raster/raster';

/** One rendered light of a scene from its OpenEXR strips of linear channels, top to bottom: R, G, B, and A where there is one. */
export function readLight(strips: readonly Uint8Array[]): Raster {
  const parts = strips.map(parseExr);
  const rows = parts.reduce((sum, p) => sum + p.height, 0);
  const { planes } = emptyRaster(parts[0].width, rows);
  const channels = parts[0].values.length / (parts[0].width * parts[0].height);
  const light = channels > 3 ? [...planes, new Float32Array(parts[0].width * rows)] : planes;
  let top = 0;
  for (const { width, height, values, number } of parts) {
    for (let y = 0, i = 0; y < height; y++)
      // the library gives rows from the bottom up
      for (let x = 0, at = (top + height - 1 - y) * width; x < width; x++, at++, i += channels)
        for (let c = 0; c < light.length; c++) light[c][at] = number(values[i + c]);
    top += height;
  }
  return { width: parts[0].width, height: rows, planes: light };
}

function parseExr(bytes: Uint8Array) {
  const loader = new EXRLoader();
  loader.setDataType(FloatType);
  const { width = 0, height = 0, data } = loader.parse(new Uint8Array(bytes).buffer);
  const values = data as Float32Array | Uint16Array;
  const number = values instanceof Uint16Array ? (v: number) => DataUtils.fromHalfFloat(v) : (v: number) => v;
  return { width, height, values, number };
}
