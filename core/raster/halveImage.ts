import { codeBytes, type Kernels, kernels } from '../kernels/kernels';
import { type Allocate } from './raster';
import { alphaImage, emptyImage, type EncodedImage } from './encodedImage';

/**
 * Half the size by the mean of each 2×2 block, in code values. An odd last row or column is dropped, so pixel centre
 * x of the half lies at 2x + 0.5 of the whole.
 */
export function halveImage(image: EncodedImage, allocate?: Allocate): EncodedImage {
  const opacity = alphaImage(image);
  const half = halved(image, undefined, allocate);
  return opacity ? { ...half, alpha: halved(opacity).data as Uint8Array } : half;
}

/** @param compiled null for the plain form, which the compiled one is held against */
export function halved(
  image: EncodedImage,
  compiled: Kernels | null = kernels() ?? null,
  allocate?: Allocate,
): EncodedImage {
  const { width: w, data, white } = image;
  const width = Math.max(1, w >> 1);
  const height = Math.max(1, image.height >> 1);
  const half = emptyImage(width, height, white, allocate);
  const below = image.height > 1 ? w * 3 : 0;
  const right = w > 1 ? 3 : 0;
  if (compiled && white !== 1) {
    const bytes = codeBytes(white);
    compiled.borrow(() => {
      const out = compiled.take(bytes * width * 3);
      for (let y = 0; y < height; y++)
        compiled.borrow(() => {
          const from = 2 * y * w * 3;
          const src = compiled.uploadCodes(data.subarray(from, from + below + w * 3));
          compiled.halveRow(src, below * bytes, right, width, bytes, out);
          half.data.set(
            bytes === 1 ? compiled.bytes(out, width * 3) : compiled.words(out, width * 3),
            y * width * 3,
          );
        });
    });
    return half;
  }
  const out = half.data;
  const round = white === 1 ? 0 : 0.5;
  for (let y = 0, o = 0; y < height; y++) {
    let i = 2 * y * w * 3;
    for (let x = 0; x < width; x++, i += 6)
      for (let c = 0; c < 3; c++, o++) {
        const p = i + c;
        out[o] = (data[p] + data[p + right] + data[p + below] + data[p + below + right]) * 0.25 + round;
      }
  }
  return half;
}
