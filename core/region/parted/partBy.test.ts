import { describe, expect, test } from '@jest/globals';
import { oklabOf } from '../../colour/oklab';
import { linearOfOklab } from '../../colour/oklab';
import { normalSource, randomSource } from '../../raster/random';
import { smoothRange } from '../smoothRange';
import { channelOf } from './channels';
import { type DabbedLight, partBy } from './partBy';

/** Colours of Oklab about a middle, as linear light. */
function group(
  seed: number,
  middle: readonly [number, number, number],
  spread: readonly [number, number, number],
  count = 400,
): Float32Array {
  const normal = normalSource(randomSource(seed));
  return Float32Array.from(
    Array.from({ length: count }, () =>
      linearOfOklab(
        middle[0] + spread[0] * normal(),
        middle[1] + spread[1] * normal(),
        middle[2] + spread[2] * normal(),
      ),
    ).flat(),
  );
}

/** Part of both sides that the range puts on the wrong one. */
function wrongOf({ inside, outside }: DabbedLight): number {
  const found = partBy({ inside, outside });
  const of = channelOf(found.channel, found.weights);
  const caught = (light: Float32Array): number => {
    let n = 0;
    for (let i = 0; i < light.length; i += 3)
      if (smoothRange(of(light[i], light[i + 1], light[i + 2]), { ...found, soft: 1e-3 }) > 0.5) n++;
    return (3 * n) / light.length;
  };
  return (1 - caught(inside) + caught(outside)) / 2;
}

describe('two dabs', () => {
  test('what differs in lightness alone is parted by tone, without overlap, in the middle of the gap', () => {
    const light = {
      inside: group(1, [0.8, 0, 0], [0.02, 0, 0]),
      outside: group(2, [0.4, 0, 0], [0.02, 0, 0]),
    };
    const found = partBy(light);
    expect(found.overlap).toBe(0);
    expect(found.byTone).toBe(0);
    expect(wrongOf(light)).toBe(0);
    // greys: every channel says the same, and the first to say it is tone; its end lies between both groups
    expect(found.channel).toBe('tone');
    const [low, high] = [0.4 + 0.07, 0.8 - 0.07].map((L) => Math.log2(L ** 3 / 0.18));
    expect(found.from).toBeGreaterThan(low);
    expect(found.from).toBeLessThan(high);
    expect(found.to).toBeGreaterThan(100);
  });

  test('what is alike in lightness is parted by its colour, and it is said how much worse tone would do', () => {
    const light = {
      inside: group(3, [0.6, 0, -0.12], [0.05, 0.01, 0.01]),
      outside: group(4, [0.6, 0, 0.1], [0.05, 0.01, 0.01]),
    };
    const found = partBy(light);
    expect(['blue', 'blueYellow']).toContain(found.channel);
    expect(found.overlap).toBeLessThan(0.01);
    expect(found.byTone).toBeGreaterThan(0.3);
    expect(wrongOf(light)).toBeCloseTo(found.overlap, 6);
  });

  test('what lies between two others is held by both ends', () => {
    const both = [group(5, [0.35, 0, 0], [0.02, 0, 0], 200), group(6, [0.9, 0, 0], [0.02, 0, 0], 200)];
    const outside = Float32Array.from([...both[0], ...both[1]]);
    const light = { inside: group(7, [0.62, 0, 0], [0.02, 0, 0]), outside };
    const found = partBy(light);
    expect(found.from).toBeGreaterThan(-100);
    expect(found.to).toBeLessThan(500);
    expect(found.overlap).toBeLessThan(0.03);
    expect(wrongOf(light)).toBeLessThan(0.03);
  });

  test('what no channel parts a mix does, along the direction that Fisher’s criterion asks for', () => {
    // two long groups beside each other, slanting through lightness and colour
    const slanted = (seed: number, aside: number): Float32Array => {
      const normal = normalSource(randomSource(seed));
      return Float32Array.from(
        Array.from({ length: 600 }, () => {
          const along = 0.12 * normal();
          return linearOfOklab(0.6 + along, 0.012 * normal(), along * 0.8 + aside + 0.008 * normal());
        }).flat(),
      );
    };
    const light = { inside: slanted(8, 0.03), outside: slanted(9, -0.03) };
    const found = partBy(light);
    expect(found.channel).toBe('mix');
    expect(found.overlap).toBeLessThan(0.04);
    // no direction of many has a larger ratio of difference to spread
    const ratio = (w: readonly number[]): number => {
      const [a, b] = [light.inside, light.outside].map((side) => {
        const values: number[] = [];
        for (let i = 0; i < side.length; i += 3) {
          const lab = oklabOf(side[i], side[i + 1], side[i + 2]);
          values.push(w[0] * lab[0] + w[1] * lab[1] + w[2] * lab[2]);
        }
        const mean = values.reduce((s, v) => s + v, 0) / values.length;
        return { mean, spread: values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length };
      });
      return (a.mean - b.mean) ** 2 / (a.spread + b.spread);
    };
    const own = ratio(found.weights);
    const normal = normalSource(randomSource(10));
    for (let k = 0; k < 2000; k++) expect(ratio([normal(), normal(), normal()])).toBeLessThan(1.02 * own);
  });
});
