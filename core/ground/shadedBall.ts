import { linearToSrgb } from '../raster/srgb';
import { type LightRig } from './light';
import { lightOnSurface } from './relight';

/** how bright the brightest place of a ball is drawn, linear */
const WHITE = 0.85;

/** A matt white ball in a light, as the camera sees it: R, G, B, opacity of `size` × `size` pixels. How bright the light is on the whole does not show. */
export function shadedBall(rig: LightRig, size: number): Uint8ClampedArray<ArrayBuffer> {
  const light = lightOnSurface(rig);
  const shown: (readonly [at: number, light: readonly number[], cover: number])[] = [];
  let most = 1e-9;
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const right = (2 * (x + 0.5)) / size - 1;
      const up = 1 - (2 * (y + 0.5)) / size;
      const far2 = right ** 2 + up ** 2;
      const cover = Math.min(1, Math.max(0, ((1 - Math.sqrt(far2)) * size) / 2 + 0.5));
      if (cover === 0) continue;
      const own = light([right, up, -Math.sqrt(Math.max(0, 1 - far2))]);
      most = Math.max(most, ...own);
      shown.push([4 * (y * size + x), own, cover]);
    }
  const pixels = new Uint8ClampedArray(4 * size * size);
  for (const [at, own, cover] of shown) {
    own.forEach((v, c) => (pixels[at + c] = 255 * linearToSrgb((WHITE * v) / most)));
    pixels[at + 3] = 255 * cover;
  }
  return pixels;
}
