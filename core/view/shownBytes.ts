import { MOST_COMPILED, sharpenWithin } from '../finish/sharpen';
import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { adjustWithin } from '../match/adjustPlanes';
import { brightenWithin } from '../raster/encodedGain';
import { type Rectangle } from '../raster/raster';
import { completed, type Unfinished } from './finishedPlanes';

/** pixels that are taken through all steps at a time, so that they stay in the cache */
const CHUNK = 1 << 15;

/**
 * What is still to be done to a picture, done, as opaque bytes: nothing is written back between the steps, for a slider waits for it.
 * @param area part of the unfinished planes' rectangle
 * @param compiled null for the plain form, which the compiled one is held against
 * @returns R G B A, `area.width * area.height * 4` bytes, clipped and rounded
 */
export function shownBytes(
  picture: Unfinished,
  area: Rectangle,
  compiled: Kernels | null = kernels() ?? null,
): Uint8ClampedArray<ArrayBuffer> {
  const { wide, sharpen } = picture;
  if (!compiled || (sharpen && wide.width * wide.height > MOST_COMPILED))
    return opaqueBytes(completed(picture, area));
  const rgba = new Uint8ClampedArray(area.width * area.height * 4);
  const rows = sharpen ? wide.height : Math.max(1, Math.floor(CHUNK / wide.width));
  compiled.borrow(() => {
    const room = planeBytes(rows * wide.width);
    const at = compiled.take(3 * room);
    const other = picture.towards && compiled.take(room);
    const shown = compiled.take(4 * area.width);
    const adjust = adjustWithin(compiled, picture.adjust);
    const brighten = brightenWithin(compiled, picture.stops);
    const top = sharpen ? 0 : area.y - wide.y;
    const bottom = sharpen ? wide.height : top + area.height;
    for (let from = top; from < bottom; from += rows) {
      const count = Math.min(rows, bottom - from) * wide.width;
      const start = from * wide.width;
      const bring = (plane: Float32Array, to: number): void =>
        compiled.floats(to, count).set(plane.subarray(start, start + count));
      picture.planes.forEach((p, c) => bring(p, at + c * room));
      if (picture.towards && other !== undefined)
        for (let c = 0; c < 3; c++) {
          bring(picture.towards.planes[c], other);
          compiled.drawTowards(at + c * room, other, count, picture.towards.share);
        }
      adjust(at, room, count);
      for (let c = 0; c < 3; c++) brighten(at + c * room, count);
      if (sharpen) sharpenWithin(compiled, at, room, wide.width, wide.height, sharpen);
      for (let y = Math.max(from, area.y - wide.y); y * wide.width < start + count; y++) {
        const row = y + wide.y - area.y;
        if (row >= area.height) break;
        const own = at + 4 * ((y - from) * wide.width + area.x - wide.x);
        compiled.showPlanes(own, own + room, own + 2 * room, area.width, shown);
        rgba.set(compiled.bytes(shown, 4 * area.width), 4 * row * area.width);
      }
    }
  });
  return rgba;
}

/** Encoded planes as opaque bytes; the array clamps and rounds. */
export function opaqueBytes([R, G, B]: readonly Float32Array[]): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(R.length * 4);
  for (let i = 0, o = 0; i < R.length; i++, o += 4) {
    rgba[o] = R[i] * 255;
    rgba[o + 1] = G[i] * 255;
    rgba[o + 2] = B[i] * 255;
    rgba[o + 3] = 255;
  }
  return rgba;
}
