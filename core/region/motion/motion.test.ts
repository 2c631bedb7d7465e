import { describe, expect, test } from '@jest/globals';
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { versionOf } from '@/core/graph/operators';
import { type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { maskOf } from '@/core/graph/wanted';
import { compileRegion } from '@/core/region/compileRegion';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { translation } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { type Rectangle } from '@/core/raster/raster';
import { linearToSrgb } from '@/core/raster/srgb';
import { imageLevels } from '@/engine/tasks';
import { realEnvironment } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { regionOf } from '@/tests/regionPlane';
import { motion } from './motion';

const [W, H] = [240, 160];
const SIZE = 22;

/** A shot of an environment with something light that stands at a place, `off` pixels beside the first. */
function shot(
  map: ReturnType<typeof realEnvironment>,
  { thing, stops, off, seed }: { thing: number; stops: number; off: number; seed: number },
): EncodedImage {
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.15 / sorted[sorted.length >> 1];
  const normal = normalSource(randomSource(seed));
  const texture = waves(9, 24);
  const image = emptyImage(W, H, 65535);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 3) {
      const u = Math.min(W - 1, Math.max(0, x - off));
      const isThing = Math.abs(u - thing) < SIZE / 2 && Math.abs(y - 80) < 30;
      for (let c = 0; c < 3; c++) {
        const behind = map.planes[c][y * W + u] * gain * 2 ** (0.4 * texture(u, y));
        const light = 2 ** stops * (isThing ? 0.35 : behind);
        const noisy = light + normal() * Math.sqrt(0.0001 * Math.max(0, light) + 0.0006 ** 2);
        image.data[o + c] = Math.round(65535 * linearToSrgb(Math.min(1, Math.max(0, noisy))));
      }
    }
  return image;
}

interface Frame {
  readonly image: EncodedImage;
  readonly off: number;
  readonly stops: number;
}

/** Where frames that lie on the first differ. */
function moved(
  frames: readonly Frame[],
  area: Rectangle = { x: 0, y: 0, width: W, height: H },
): Float32Array {
  const g = buildGraph(versionOf);
  const values = new Map<string, Value>();
  const lights = frames.map(({ image, off, stops }, k) => {
    const frame = g.add('frame', { hash: String(k) });
    values.set(frame, { is: 'picture', levels: imageLevels(image) });
    return { light: g.add('samplePicture', { matrix: translation(off, 0) }, [frame]), stops };
  });
  const region = regionOf({ kind: 'motion', settings: motion.plain });
  const mask = compileRegion(g, region, { longEdge: W, named: () => undefined, frames: () => lights });
  const world = { made: (hash: string) => values.get(hash), cache: NO_CACHE, keeps: () => false };
  return maskOf(evaluate(g.graph, mask ?? '', { level: 0, area, kernel: 'bilinear' }, world), 'a test').plane;
}

const share = (plane: Float32Array, of: (x: number, y: number) => boolean): number => {
  const some = [...plane].filter((_, i) => of(i % W, Math.floor(i / W)));
  return some.reduce((sum, v) => sum + v, 0) / some.length;
};

describe('what moved between the frames of a set', () => {
  // environments of the package @pmndrs/assets
  test.each(['park', 'lobby'])('is where it was and where it went, and nowhere else, in %s', (name) => {
    const map = realEnvironment(name, W, H);
    const frames = [
      { thing: 70, stops: 0, off: 0, seed: 1 },
      { thing: 150, stops: -1, off: 3, seed: 2 },
      { thing: 150, stops: 0.7, off: -5, seed: 3 },
    ].map((f) => ({ ...f, image: shot(map, f) }));
    const plane = moved(frames);
    const within = (x: number, y: number, at: number, by: number): boolean =>
      Math.abs(x - at) < SIZE / 2 + by && Math.abs(y - 80) < 30 + by;
    // where what stands behind it is told from it, and is not burnt
    const sorted = Float32Array.from(map.planes[1]).sort();
    const gain = 0.15 / sorted[sorted.length >> 1];
    const [R, G, B] = map.planes;
    const isTold = (x: number, y: number): boolean => {
      const i = y * W + x;
      const behind = gain * (0.2126 * R[i] + 0.7152 * G[i] + 0.0722 * B[i]);
      return behind < 0.16 && behind > 0.008;
    };
    const there = (x: number, y: number): boolean =>
      (within(x, y, 70, -4) || within(x, y, 150, -4)) && isTold(x, y);
    expect(share(plane, there)).toBeGreaterThan(0.9);
    const still = (x: number, y: number): boolean =>
      !within(x, y, 70, 5) && !within(x, y, 150, 5) && x > 8 && x < W - 8;
    expect(share(plane, still)).toBeLessThan(0.02);
    const tile = { x: 60, y: 50, width: 70, height: 40 };
    const part = moved(frames, tile);
    const off = part.map((v, i) =>
      Math.abs(v - plane[(tile.y + Math.floor(i / tile.width)) * W + tile.x + (i % tile.width)]),
    );
    expect(Math.max(...off)).toBeLessThan(1e-4);
  });

  test('a frame that is burnt or black somewhere tells nothing there, and one frame alone nothing at all', () => {
    const map = realEnvironment('park', W, H);
    const frames = [
      { thing: 70, stops: 0, off: 0, seed: 1 },
      { thing: 150, stops: 9, off: 0, seed: 2 },
      { thing: 150, stops: -9, off: 0, seed: 3 },
    ].map((f) => ({ ...f, image: shot(map, f) }));
    expect(share(moved(frames), (x) => x < 40 || x > 200)).toBeLessThan(0.01);
    const g = buildGraph(versionOf);
    const one = [{ light: g.add('fillColour', { colour: [0, 0, 0] }), stops: 0 }];
    expect(
      motion.compile(g, motion.plain, { longEdge: W, named: () => undefined, frames: () => one }),
    ).toBeUndefined();
    expect(motion.compile(g, motion.plain, { longEdge: W, named: () => undefined })).toBeUndefined();
  });
});
