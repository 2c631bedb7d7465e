import { type EncodedImage } from '../raster/encodedImage';
import { gaussianBlur } from '../raster/gaussianBlur';

/** A spot of the sensor that is darker than its surroundings in several frames, full-size frame pixels. */
export interface DustSpot {
  readonly x: number;
  readonly y: number;
  readonly frames: number;
}

const LONG_EDGE = 1100;
/** a spot takes away at least this share of the light of the ring around it */
const DEEP = 0.025;
/** the ring is even: its values spread by no more than this share, and less than a third of the depth */
const EVEN = 0.03;
/** pixels of the reduced grid on which the ring is read */
const RING = 7;
const CIRCLE = Array.from({ length: 16 }, (_, k) => {
  const angle = (k * Math.PI) / 8;
  return [Math.round(RING * Math.cos(angle)), Math.round(RING * Math.sin(angle))] as const;
});

/** Dark spots of one frame on a reduced grid: 1 where a blob a few pixels wide lies in an even ring. */
function spotsOf(levels: readonly EncodedImage[]): { plane: Uint8Array; w: number; h: number; cell: number } {
  const level = levels.find((l) => Math.max(l.width, l.height) <= LONG_EDGE) ?? levels[levels.length - 1];
  const { width: w, height: h, data, white } = level;
  const tone = new Float32Array(w * h);
  for (let i = 0; i < tone.length; i++) tone[i] = data[i * 3 + 1] / white;
  const near = gaussianBlur(tone, w, h, 1);
  const plane = new Uint8Array(w * h);
  const ring = Int32Array.from(CIRCLE, ([dx, dy]) => dy * w + dx);
  const reach = RING + 1;
  for (let y = reach; y < h - reach; y++)
    for (let x = reach; x < w - reach; x++) {
      const i = y * w + x;
      // the four corners first: most places fail there
      const corners =
        (near[i - 5 * w - 5] + near[i - 5 * w + 5] + near[i + 5 * w - 5] + near[i + 5 * w + 5]) / 4;
      if (corners < 0.15 || corners > 0.97 || near[i] > (1 - DEEP) * corners) continue;
      let low = Infinity;
      let high = 0;
      let sum = 0;
      let k = 0;
      // most rings are uneven, and show it soon: what is left of one can only widen it
      for (; k < ring.length && high - low < EVEN * high; k++) {
        const v = near[i + ring[k]];
        if (v < low) low = v;
        if (v > high) high = v;
        sum += v;
      }
      if (k < ring.length) continue;
      const around = sum / ring.length;
      const depth = 1 - near[i] / around;
      if (depth > DEEP && high - low < Math.min(EVEN, depth / 3) * around) plane[i] = 1;
    }
  return { plane, w, h, cell: levels[0].width / w };
}

/**
 * Dust: dark blobs at the same place of the sensor in at least two frames (in every frame that is even there). What belongs to the scene
 * moves with it when the camera is not perfectly still; where nothing moved, both look alike and only clean sky counts.
 */
export function dustSpots(frames: readonly (readonly EncodedImage[])[]): DustSpot[] {
  if (frames.length < 2) return [];
  const found = frames.map(spotsOf);
  const { w, h, cell } = found[0];
  if (found.some((f) => f.w !== w || f.h !== h)) return [];
  const count = new Uint8Array(w * h);
  for (const { plane } of found) for (let i = 0; i < count.length; i++) count[i] += plane[i];
  const spots: DustSpot[] = [];
  const taken = new Uint8Array(w * h);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      if (count[i] < Math.max(2, Math.ceil(frames.length * 0.5)) || taken[i]) continue;
      spots.push({ x: (x + 1.5) * cell, y: (y + 1.5) * cell, frames: count[i] });
      for (let j = Math.max(0, y - 8); j < Math.min(h, y + 12); j++)
        taken.fill(1, j * w + Math.max(0, x - 12), j * w + Math.min(w, x + 13));
    }
  return spots;
}
