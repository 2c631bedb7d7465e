import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';
import { linearToSrgb } from '@/core/raster/srgb';

/** A made-up view of known depth: a wall far away, and before its middle a near shield that shifts against it. */
export interface NearAndFar {
  readonly width: number;
  readonly height: number;
  /** what the wall shifts by across, pixels, where the reference has its pixel x */
  readonly far: (x: number) => number;
  /** what the shield shifts by, pixels across and down */
  readonly near: readonly [number, number];
}

/** Light of a surface, any place of it: waves of many lengths. */
function surface(seed: number): (x: number, y: number) => number {
  const random = randomSource(seed);
  const waves = Array.from({ length: 36 }, () => {
    const length = 7 * 2 ** (4 * random());
    const way = 2 * Math.PI * random();
    const k = (2 * Math.PI) / length;
    return { kx: k * Math.cos(way), ky: k * Math.sin(way), phase: 7 * random(), weight: Math.sqrt(length) };
  });
  const most = Math.sqrt(waves.reduce((s, w) => s + w.weight ** 2, 0));
  return (x, y) =>
    0.08 *
    2 ** ((1.6 / most) * waves.reduce((s, w) => s + w.weight * Math.sin(w.kx * x + w.ky * y + w.phase), 0));
}

const WALL = surface(5);
const SHIELD = surface(17);

/** Whether a place of the reference lies on the shield: below 1. */
export const onShield = ({ width, height }: NearAndFar, x: number, y: number): number =>
  Math.hypot((x - 0.5 * width) / (0.17 * width), (y - 0.5 * height) / (0.24 * height));

/** What a place of the reference shifts by, as it is seen there. */
export function shiftAt(view: NearAndFar, x: number, y: number): readonly [number, number] {
  if (onShield(view, x, y) < 1) return view.near;
  return [view.far(x), 0];
}

/** The view as the reference sees it, or as a frame does, from where near and far have shifted. @param stops exposure, EV */
export function seenFrom(
  view: NearAndFar,
  from: 'reference' | 'frame',
  stops: number,
  seed: number,
): EncodedImage {
  const { width, height, far, near } = view;
  const random = randomSource(seed);
  const image = emptyImage(width, height, 255);
  const moved = from === 'frame' ? 1 : 0;
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 3) {
      // what is seen at x lies there in the reference, less its shift
      let at = x;
      for (let step = 0; step < moved * 8; step++) at = x - far(at);
      const wall = WALL(at, y);
      const [u, v] = [x - moved * near[0], y - moved * near[1]];
      const edge = onShield(view, u, v);
      const cover = 1 / (1 + Math.exp(60 * (edge - 1)));
      const light = (wall + cover * (SHIELD(u, v) - wall)) * 2 ** stops;
      const noisy = Math.max(0, light + 0.003 * (random() + random() - 1));
      image.data.fill(Math.round(255 * Math.min(1, linearToSrgb(noisy))), o, o + 3);
    }
  return image;
}
