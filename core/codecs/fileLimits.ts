import { Problem } from '../proof/problem';

/** Bounds that a file must keep before it is decoded: files are hostile until then. */
export const FILE_LIMITS = {
  bytes: 400e6,
  side: 30000,
  pixels: 120e6,
  entries: 400,
  unpackedBytes: 4e9,
} as const;

/** a picture of more pixels than this is asked how many bytes hold them */
const LARGE = 40e6;
/** pixels that a byte of a photograph can hold at most: an even grey field of a JPEG has about 60 */
const MOST_PER_BYTE = 2000;

/** Throws a {@link Problem} when a few bytes claim to be a very large picture: it would take gigabytes to find out that it is not. */
export function checkSubstance(file: string, width: number, height: number, bytes: number): void {
  if (width * height > LARGE && width * height > MOST_PER_BYTE * bytes)
    throw new Problem(
      `“${file}” claims to be ${Math.round((width * height) / 1e6)} megapixels in ${Math.ceil(bytes / 1000)} kB, which no photograph is. It may be meant to do harm; leave it out.`,
    );
}

/** Throws a {@link Problem} when the size that a header states is out of bounds. */
export function checkSize(file: string, width: number, height: number, bytes = Infinity): void {
  if (!(width >= 16 && height >= 16))
    throw new Problem(
      `“${file}” is ${width} × ${height} pixels: too small to work with. Choose the camera's own file.`,
    );
  if (width > FILE_LIMITS.side || height > FILE_LIMITS.side || width * height > FILE_LIMITS.pixels)
    throw new Problem(
      `“${file}” is ${width} × ${height} pixels: more than the ${FILE_LIMITS.pixels / 1e6} megapixels Marsh takes. Export it smaller.`,
    );
  checkSubstance(file, width, height, bytes);
}
