import { describe, expect, test } from '@jest/globals';
import { linearToSrgb } from '../../raster/srgb';
import { randomSource } from '../../raster/random';
import { evenGains } from './evenGains';
import { type DrawnFrame } from './frameOnCanvas';
import { seamLabels } from './seamLabels';

const [W, H] = [90, 50];

/** A frame that covers columns from `left` to before `right`, with what it shows there. */
function drawn(left: number, right: number, shows: (x: number, y: number, c: number) => number): DrawnFrame {
  const n = W * H;
  const plane = (c: number): Float32Array =>
    Float32Array.from({ length: n }, (_, i) => {
      const x = i % W;
      return x < left || x >= right ? 0 : shows(x, Math.floor(i / W), c);
    });
  const inside = Float32Array.from({ length: n }, (_, i) => {
    const x = i % W;
    return Math.min(x - left, right - 1 - x);
  });
  const middle = (left + right) / 2;
  const radius = Float32Array.from(
    { length: n },
    (_, i) => Math.hypot((i % W) - middle, Math.floor(i / W) - H / 2) / Math.hypot((right - left) / 2, H / 2),
  );
  return { planes: [plane(0), plane(1), plane(2)], inside, radius };
}

const texture = (() => {
  const random = randomSource(4);
  const cells = Array.from({ length: W * H }, () => 0.3 + 0.3 * random());
  return (x: number, y: number): number => cells[y * W + x];
})();

describe('seams', () => {
  test('every cell goes to a frame that covers it, and each frame’s part hangs together', () => {
    const frames = [drawn(0, 55, texture), drawn(35, 90, texture)];
    const labels = seamLabels(frames, W, H, [0, 1]);
    labels.forEach((label, i) => {
      expect(label).toBeGreaterThanOrEqual(0);
      expect(frames[label].inside[i]).toBeGreaterThanOrEqual(0);
    });
    // along a row the label changes once
    for (let y = 0; y < H; y++) {
      let changes = 0;
      for (let x = 1; x < W; x++) if (labels[y * W + x] !== labels[y * W + x - 1]) changes++;
      expect(changes).toBe(1);
    }
  });

  test('what nobody covers has none', () => {
    const labels = seamLabels([drawn(0, 30, texture), undefined, drawn(60, 90, texture)], W, H, [0, 2]);
    for (let y = 0; y < H; y++) {
      expect(labels[y * W + 45]).toBe(-1);
      expect(labels[y * W + 10]).toBe(0);
      expect(labels[y * W + 80]).toBe(2);
    }
  });

  test('a seam goes around what moved: none of it is cut', () => {
    // a thing in the middle of the overlap that only the second frame shows
    const inThing = (x: number, y: number): boolean => Math.hypot(x - 45, y - 25) < 7;
    const first = drawn(0, 58, texture);
    const second = drawn(32, 90, (x, y) => (inThing(x, y) ? 0.95 : texture(x, y)));
    const labels = seamLabels([first, second], W, H, [0, 1]);
    const owners = new Set<number>();
    for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) if (inThing(x, y)) owners.add(labels[y * W + x]);
    expect(owners.size).toBe(1);
  });

  test('a straight seam through the middle is taken where both agree everywhere', () => {
    const even = (): number => 0.5;
    const labels = seamLabels([drawn(0, 60, even), drawn(30, 90, even)], W, H, [0, 1]);
    const at = Array.from({ length: H }, (_, y) => labels.subarray(y * W, (y + 1) * W).indexOf(1));
    expect(Math.max(...at) - Math.min(...at)).toBeLessThanOrEqual(1);
    expect(Math.abs(at[0] - 45)).toBeLessThan(4);
  });
});

describe('gains', () => {
  /** Frames of one scene that are brighter by stops, each channel by its own, and lose light at the corners. */
  const shot = (
    left: number,
    right: number,
    stops: readonly [number, number, number],
    vignette: number,
  ): DrawnFrame => {
    const base = drawn(left, right, () => 0);
    const planes = stops.map((s, c) =>
      Float32Array.from(base.inside, (inside, i) => {
        if (inside < 0) return 0;
        const light = 0.6 * texture(i % W, Math.floor(i / W)) ** 2 * (1 + 0.2 * c);
        return linearToSrgb(light * 2 ** (s - vignette * base.radius[i] ** 2));
      }),
    );
    return { ...base, planes: [planes[0], planes[1], planes[2]] };
  };

  test('of exposure and white balance are told from what frames both see', () => {
    const given = [
      [0, 0, 0],
      [0.4, 0.3, 0.1],
      [-0.3, -0.2, 0.1],
    ] as const;
    const { stops } = evenGains([
      shot(0, 40, given[0], 0),
      shot(25, 65, given[1], 0),
      shot(50, 90, given[2], 0),
    ]);
    for (const [a, b] of [
      [0, 1],
      [1, 2],
    ])
      for (let c = 0; c < 3; c++) expect(stops[a][c] - stops[b][c]).toBeCloseTo(given[b][c] - given[a][c], 1);
  });

  test('the vignette that all share is told apart from them', () => {
    const none = [0, 0, 0] as const;
    const frames = [0, 0.7].map((vignette) => [
      shot(0, 40, none, vignette),
      shot(25, 65, none, vignette),
      shot(50, 90, none, vignette),
    ]);
    expect(Math.abs(evenGains(frames[0]).vignette)).toBeLessThan(0.05);
    const { vignette, stops } = evenGains(frames[1]);
    expect(Math.abs(vignette - 0.7)).toBeLessThan(0.12);
    for (const own of stops) for (const s of own) expect(Math.abs(s)).toBeLessThan(0.1);
  });

  test('a frame without an overlap stays as it is', () => {
    const { stops } = evenGains([shot(0, 30, [0, 0, 0], 0), shot(60, 90, [1, 1, 1], 0)]);
    for (const own of stops) for (const s of own) expect(Math.abs(s)).toBeLessThan(0.01);
  });
});
