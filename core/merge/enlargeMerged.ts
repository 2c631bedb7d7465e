import { emptyImage, type EncodedImage } from '../raster/encodedImage';
import { type Rectangle, sharedBytes, sharedFloats } from '../raster/raster';

type Size = Pick<Rectangle, 'width' | 'height'>;

/** Where a pixel of the whole lies in the small picture: small = whole / scale + offset, the same for columns and rows or not. */
export interface SmallPlace {
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/** A picture that was merged small, drawn as large as the whole will be, between its pixels by straight lines. */
export function enlargeImage(
  { width: w, height: h, white, data }: EncodedImage,
  { scale, left, top }: SmallPlace,
  { width, height }: Size,
): EncodedImage {
  const out = emptyImage(width, height, white);
  const inner = (v: number, size: number): number => Math.max(0, Math.min(size - 1, v));
  const [columns, parts] = [new Int32Array(width), new Float32Array(width)];
  for (let x = 0; x < width; x++) {
    const u = inner(x / scale + left, w);
    columns[x] = 3 * Math.min(Math.max(0, w - 2), Math.floor(u));
    parts[x] = w > 1 ? u - columns[x] / 3 : 0;
  }
  const right = w > 1 ? 3 : 0;
  for (let y = 0, o = 0; y < height; y++) {
    const v = inner(y / scale + top, h);
    const j = Math.min(Math.max(0, h - 2), Math.floor(v));
    const t = h > 1 ? v - j : 0;
    const upper = 3 * j * w;
    const lower = h > 1 ? upper + 3 * w : upper;
    for (let x = 0; x < width; x++) {
      const [i, s] = [columns[x], parts[x]];
      for (let c = 0; c < 3; c++, o++) {
        const [a, b] = [upper + i + c, lower + i + c];
        const above = data[a] + s * (data[a + right] - data[a]);
        const below = data[b] + s * (data[b + right] - data[b]);
        out.data[o] = above + t * (below - above) + 0.5;
      }
    }
  }
  return out;
}

/** Numbers of the half-size picture of a small merge, for the half-size picture of the whole: each from the nearest. */
export function enlargeShares<T extends Uint8Array | Float32Array>(
  shares: T,
  small: Size,
  { scale, left, top }: SmallPlace,
  { width, height }: Size,
): T {
  const half = (size: number): number => (size + 1) >> 1;
  const [w, h] = [half(small.width), half(small.height)];
  const [W, H] = [half(width), half(height)];
  const out = shares instanceof Uint8Array ? new Uint8Array(sharedBytes(W * H)) : sharedFloats(W * H);
  const nearest = (v: number, offset: number, size: number): number =>
    Math.max(0, Math.min(size - 1, Math.round(v / scale + offset / 2)));
  for (let y = 0, o = 0; y < H; y++) {
    const row = nearest(y, top, h) * w;
    for (let x = 0; x < W; x++, o++) out[o] = shares[row + nearest(x, left, w)];
  }
  return out as T;
}
