import { codeBytes, type Kernels, planeBytes } from '../../kernels/kernels';
import { type EncodedImage } from '../../raster/encodedImage';
import { decodePlane } from '../../raster/srgb';

/** Some rows of a picture as linear planes. */
export function linearRows({ width, data, white }: EncodedImage, top: number, rows: number): Float32Array[] {
  const n = rows * width;
  const planes = [0, 1, 2].map(() => new Float32Array(n));
  for (let i = 0, o = top * width * 3; i < n; i++, o += 3)
    for (let c = 0; c < 3; c++) planes[c][i] = data[o + c] / white;
  planes.forEach(decodePlane);
  return planes;
}

/** {@link linearRows} in the kernels' memory, one plane after the other. @returns where the first one lies */
export function linearRowsKernel(
  k: Kernels,
  { width, data, white }: EncodedImage,
  top: number,
  rows: number,
): number {
  const n = rows * width;
  const plane = planeBytes(n);
  const at = k.take(3 * plane);
  k.borrow(() => {
    const from = top * width * 3;
    const src = k.uploadCodes(data.subarray(from, from + n * 3));
    k.splitPlanes(src, codeBytes(white), n, at, plane, 1 / white);
  });
  for (let c = 0; c < 3; c++) k.decodePlane(at + c * plane, n, 1);
  return at;
}
