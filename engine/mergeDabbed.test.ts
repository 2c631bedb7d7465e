import { expect, test } from '@jest/globals';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';

import { IDENTITY } from '@/core/raster/matrix3';
import { randomSource } from '@/core/raster/random';
import { inlinePool } from '@/tests/inlinePool';
import { mergeSet, PLAIN_WISH } from './mergeSet';
import { imageLevels } from './tasks';

const [W, H] = [240, 160];
/** reference picture's light against the other's, by channel */
const WARMER = [1.22, 1.18, 1.1];

/** A textured wall in a light that falls off to one side, with a dark post at a place. */
function wall(post: number, gains: readonly number[], seed: number): EncodedImage {
  const texture = randomSource(21);
  const noise = randomSource(seed);
  const image = emptyImage(W, H, 65535);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const grain = texture();
      const stone = (0.12 + 0.06 * grain) * (1 + x / W);
      const light = x >= post && x < post + 26 && y > 40 && y < 130 ? 0.02 + 0.01 * grain : stone;
      for (let c = 0; c < 3; c++)
        image.data[3 * i + c] = 65535 * linearToSrgb(light * gains[c]) + 60 * (noise() - 0.5);
    }
  return image;
}

const labAt = ({ data }: EncodedImage, i: number) =>
  labOf(...([0, 1, 2].map((c) => srgbToLinear(data[3 * i + c] / 65535)) as [number, number, number]));

const furthest = (a: EncodedImage, b: EncodedImage): number => {
  let most = 0;
  for (let i = 0; i < W * H; i++) most = Math.max(most, deltaE2000(labAt(a, i), labAt(b, i)));
  return most;
};

test.each(['swap', 'moments'] as const)(
  'what was pointed out in a %s comes whole, in the light of where it is laid, and is counted for its frame',
  async (kind) => {
    const pool = inlinePool(2);
    const [own, other, truth] = [wall(30, WARMER, 1), wall(170, [1, 1, 1], 2), wall(170, WARMER, 1)];
    const frames = [own, other].map((image, i) => ({
      name: `${i}.png`,
      levels: imageLevels(image),
      matrix: IDENTITY,
      stops: 0,
      scale: 1,
    }));
    const dabs = [183, 43].map((x) => ({ frame: 1, size: 6 / W, points: [[x / W, 85 / W] as const] }));
    // nothing is looked for: all that is not pointed out stays
    const wish = { ...PLAIN_WISH, moments: {}, dabs };
    const { merged, findings } = await mergeSet(pool, kind, frames, 0, wish, undefined);
    expect(furthest(own, truth)).toBeGreaterThan(25);
    expect(furthest(merged.image, truth)).toBeLessThan(3);
    expect(findings.find((f) => f.id === 'merge.seam')?.value).toBeLessThan(0.5);
    const half = (W / 2) * 42 + 91;
    expect(merged.shares.map((s) => s[half])).toEqual([0, 255]);
    expect(merged.shares[0][(W / 2) * 20 + 60]).toBeGreaterThan(250);
    pool.close();
  },
);
