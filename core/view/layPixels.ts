import { codeBytes, type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type EncodedImage } from '../raster/encodedImage';

/** pixels that the kernel lays at a time */
const CHUNK = 1 << 15;

/**
 * Writes encoded planes as code values 0…white, interleaved R G B, clipped and rounded; floats (white 1) stay as they are, unbounded.
 * @param out at least as long as the planes from pixel `offset` on
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function layPixels(
  planes: readonly Float32Array[],
  out: EncodedImage,
  offset: number,
  compiled: Kernels | null = kernels() ?? null,
): void {
  const { white, data } = out;
  if (compiled && white !== 1) layCompiled(compiled, planes, out, offset);
  else
    planes.forEach((plane, c) => {
      let o = offset * 3 + c;
      if (white === 1) for (let i = 0; i < plane.length; i++, o += 3) data[o] = plane[i];
      else
        for (let i = 0; i < plane.length; i++, o += 3) {
          const v = plane[i];
          data[o] = (v > 0 ? (v < 1 ? v : 1) : 0) * white + 0.5;
        }
    });
}

function layCompiled(
  k: Kernels,
  planes: readonly Float32Array[],
  { white, data }: EncodedImage,
  offset: number,
): void {
  const [{ length }] = planes;
  const bytes = codeBytes(white);
  k.borrow(() => {
    const plane = planeBytes(CHUNK);
    const [at, codes] = [k.take(3 * plane), k.take(3 * CHUNK * bytes)];
    for (let from = 0; from < length; from += CHUNK) {
      const count = Math.min(CHUNK, length - from);
      planes.forEach((p, c) => k.floats(at + c * plane, count).set(p.subarray(from, from + count)));
      k.layCodes(at, plane, count, white, bytes, codes);
      data.set(bytes === 1 ? k.bytes(codes, 3 * count) : k.words(codes, 3 * count), (offset + from) * 3);
    }
  });
}
