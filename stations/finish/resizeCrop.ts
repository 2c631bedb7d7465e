import { type Rectangle } from '@/core/raster/raster';

/** Which part of a crop is held: an edge or corner by its direction, or the whole. */
export interface Handle {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

const LEAST = 16;

const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * The crop after a handle was pulled by (dx, dy) picture pixels, inside the picture, in whole pixels. With a ratio the held side
 * leads and the other follows about the opposite edge or the middle.
 */
export function resizeCrop(
  crop: Rectangle,
  handle: Handle,
  dx: number,
  dy: number,
  picture: { readonly width: number; readonly height: number },
  ratio: number | 'free',
): Rectangle {
  if (handle.x === 0 && handle.y === 0)
    return {
      ...crop,
      x: clamp(Math.round(crop.x + dx), 0, picture.width - crop.width),
      y: clamp(Math.round(crop.y + dy), 0, picture.height - crop.height),
    };
  let left = crop.x;
  let top = crop.y;
  let right = crop.x + crop.width;
  let bottom = crop.y + crop.height;
  if (handle.x < 0) left = clamp(Math.round(left + dx), 0, right - LEAST);
  if (handle.x > 0) right = clamp(Math.round(right + dx), left + LEAST, picture.width);
  if (handle.y < 0) top = clamp(Math.round(top + dy), 0, bottom - LEAST);
  if (handle.y > 0) bottom = clamp(Math.round(bottom + dy), top + LEAST, picture.height);
  if (ratio === 'free') return { x: left, y: top, width: right - left, height: bottom - top };
  // room on the side that follows
  const anchorX = handle.x < 0 ? right : handle.x > 0 ? left : (left + right) / 2;
  const anchorY = handle.y < 0 ? bottom : handle.y > 0 ? top : (top + bottom) / 2;
  const roomX =
    handle.x < 0
      ? right
      : handle.x > 0
        ? picture.width - left
        : 2 * Math.min(anchorX, picture.width - anchorX);
  const roomY =
    handle.y < 0
      ? bottom
      : handle.y > 0
        ? picture.height - top
        : 2 * Math.min(anchorY, picture.height - anchorY);
  const wanted = handle.x !== 0 ? right - left : (bottom - top) * ratio;
  const width = Math.floor(Math.max(LEAST, Math.min(wanted, roomX, roomY * ratio)));
  const height = Math.max(1, Math.min(Math.round(width / ratio), Math.floor(roomY)));
  const x = handle.x < 0 ? right - width : handle.x > 0 ? left : Math.round(anchorX - width / 2);
  const y = handle.y < 0 ? bottom - height : handle.y > 0 ? top : Math.round(anchorY - height / 2);
  return { x: clamp(x, 0, picture.width - width), y: clamp(y, 0, picture.height - height), width, height };
}
