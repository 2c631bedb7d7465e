import { DataTexture, FloatType, RGBAFormat } from 'three';
import { EXRExporter } from 'three/addons/exporters/EXRExporter.js';
import { type EncodedImage } from '../../raster/encodedImage';
import { srgbToLinear } from '../../raster/srgb';

/** Writes scene-linear OpenEXR, half float, ZIP, from sRGB-encoded code values. */
export async function encodeExr(image: EncodedImage): Promise<Uint8Array> {
  const { width, height, data, white } = image;
  const rgba = new Float32Array(width * height * 4);
  for (let y = 0, i = 0; y < height; y++)
    // the library takes rows from the bottom up
    for (let x = 0, o = (height - 1 - y) * width * 4; x < width; x++, i += 3, o += 4) {
      for (let c = 0; c < 3; c++) rgba[o + c] = srgbToLinear(data[i + c] / white);
      rgba[o + 3] = 1;
    }
  const texture = new DataTexture(rgba, width, height, RGBAFormat, FloatType);
  return new EXRExporter().parse(texture);
}
