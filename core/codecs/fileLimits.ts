import { Problem } from '../proof/problem';

/** Bounds that a file must keep before it is decoded: files are hostile until then. */
export const FILE_LIMITS = {
  bytes: 400e6,
  side: 30000,
  pixels: 120e6,
  entries: 400,
  unpackedBytes: 4e9,
} as const;

/** Throws a {@link Problem} when the size that a header states is out of bounds. */
export function checkSize(file: string, width: number, height: number): void {
  if (!(width >= 16 && height >= 16))
    throw new Problem(
      `“${file}” is ${width} × ${height} pixels: too small to work with. Choose the camera's own file.`,
    );
  if (width > FILE_LIMITS.side || height > FILE_LIMITS.side || width * height > FILE_LIMITS.pixels)
    throw new Problem(
      `“${file}” is ${width} × ${height} pixels: more than the ${FILE_LIMITS.pixels / 1e6} megapixels Marsh takes. Export it smaller.`,
    );
}
