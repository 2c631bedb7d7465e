import { describe, expect, test } from '@jest/globals';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { normalSource, randomSource } from '@/core/raster/random';
import { realEnvironment } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { bestFrame, frameAgreement, type GapLight } from './frameAgreement';
import { fillFrom } from './fillFrom';
import { membrane } from './membrane';
import { pasted, pasteGain } from './pasteGain';
import { type Gap, patchFill } from './patchFill';

const [W, H] = [200, 150];

/** 1 in a rectangle about the middle. */
const middle = (width: number, height: number, half: number): Uint8Array =>
  Uint8Array.from({ length: width * height }, (_, i) =>
    Math.abs((i % width) - width / 2) < half && Math.abs(Math.floor(i / width) - height / 2) < half ? 1 : 0,
  );

const plane = (of: (x: number, y: number) => number, width = W, height = H): Float32Array =>
  Float32Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width)));

describe('a membrane', () => {
  // harmonic functions are their own continuation (Laplace's equation)
  test.each([
    ['a plane', (x: number, y: number) => 0.3 + 0.002 * x - 0.004 * y],
    ['a saddle', (x: number, y: number) => ((x - 90) ** 2 - (y - 70) ** 2) / 4000],
    ['a wave that dies away', (x: number, y: number) => Math.exp(-y / 60) * Math.sin(x / 60)],
  ])('goes on as %s does', (_, of) => {
    const values = plane(of);
    const gap = middle(W, H, 40);
    const smooth = membrane(
      values,
      Uint8Array.from(gap, (g) => 1 - g),
      W,
      H,
    );
    const span = Math.max(...values) - Math.min(...values);
    expect(Math.max(...smooth.map((v, i) => Math.abs(v - values[i])))).toBeLessThan(0.01 * span);
  });

  test('keeps what is known, and is nothing where nothing is', () => {
    const values = plane((x) => x);
    const known = Uint8Array.from(values, (_, i) => (i % 3 === 0 ? 1 : 0));
    const kept = membrane(values, known, W, H).filter((v, i) => known[i] === 1 && v !== values[i]);
    expect(kept).toHaveLength(0);
    expect(Math.max(...membrane(values, new Uint8Array(values.length), W, H))).toBe(0);
  });
});

/** A gap in the middle of a texture. */
function gapIn(of: (x: number, y: number) => number, half: number, taken?: (x: number) => boolean): Gap {
  const gap = middle(W, H, half);
  const free = Uint8Array.from(gap, (g, i) => (g || taken?.(i % W) === false ? 0 : 1));
  return {
    width: W,
    height: H,
    planes: [0, 1, 2].map((c) => plane((x, y) => of(x, y) * (1 - 0.2 * c))),
    gap,
    taken: free,
  };
}

/** What a gap is filled with, pixel by pixel. */
function filled({ planes, gap }: Gap, seed = 1): Float32Array | undefined {
  const found = patchFill(
    { width: W, height: H, planes, gap, taken: Uint8Array.from(gap, (g) => 1 - g) },
    seed,
  );
  return (
    found &&
    planes[0].map((v, i) => {
      if (!gap[i]) return v;
      const o = (Math.floor(i / W) - found.y) * found.width + (i % W) - found.x;
      return planes[0][i + found.dy[o] * W + found.dx[o]];
    })
  );
}

describe('what is laid over a gap', () => {
  test('is even light where there is nothing about it to go on from, and a frame as it is', () => {
    const light = plane((x) => 0.1 + x / 1000);
    const none = new Uint8Array(light.length);
    const [even] = pasteGain(light, undefined, none, W, H, 2);
    expect(pasted(undefined, even)).toBeCloseTo(0.1995, 4);
    const [as] = pasteGain(light, light, none, W, H, 1);
    expect(pasted(0.3, as)).toBeCloseTo(0.3, 6);
  });
});

describe('a gap filled with patches', () => {
  test('goes on with what repeats, exactly', () => {
    const tiles = gapIn((x, y) => (((x >> 3) + (y >> 3)) % 2 ? 0.8 : 0.2) + 0.1 * ((x % 8) / 8), 24);
    const out = filled(tiles);
    const wrong = out?.filter((v, i) => Math.abs(v - tiles.planes[0][i]) > 0.02).length ?? Infinity;
    expect(wrong / 48 ** 2).toBeLessThan(0.02);
  });

  test('leads an edge through', () => {
    const edge = gapIn((x, y) => (y > 0.3 * x + 40 ? 0.8 : 0.25), 22);
    const out = filled(edge);
    const off = out?.map((v, i) => Math.abs(v - edge.planes[0][i])) ?? new Float32Array([Infinity]);
    // at most two pixels of its length of 44 beside where it would go, on the whole
    expect(off.reduce((sum, v) => sum + v, 0) / 0.55).toBeLessThan(44 * 2);
  });

  test('keeps as much detail as is about it, where a smooth one has none', () => {
    const texture = waves(5, 60);
    const noise = normalSource(randomSource(3));
    const rough = gapIn((x, y) => 0.5 + 0.2 * texture(x, y) + 0.03 * noise(), 28);
    const detail = (p: ArrayLike<number>, inside: number): number => {
      let [sum, n] = [0, 0];
      for (let i = W + 1; i < W * H - W - 1; i++)
        if (rough.gap[i] === inside && rough.gap[i + 1] === inside) {
          sum += Math.abs(p[i] - p[i + 1]);
          n++;
        }
      return sum / n;
    };
    const out = filled(rough) ?? new Float32Array();
    const smooth = membrane(
      rough.planes[0],
      Uint8Array.from(rough.gap, (g) => 1 - g),
      W,
      H,
    );
    expect(detail(out, 1) / detail(out, 0)).toBeGreaterThan(0.8);
    expect(detail(out, 1) / detail(out, 0)).toBeLessThan(1.25);
    expect(detail(smooth, 1) / detail(smooth, 0)).toBeLessThan(0.4);
  });

  test('takes only what may be taken, the same again for the same seed, and nothing where nothing may', () => {
    const texture = waves(8);
    const right = gapIn(texture, 20, (x) => x > W / 2);
    const found = patchFill(right, 3);
    expect(found).toEqual(patchFill(right, 3));
    let [moved, within] = [0, 0];
    found?.dx.forEach((dx, o) => {
      if (dx === 0 && found.dy[o] === 0) return;
      moved++;
      if (found.x + (o % found.width) + dx > W / 2) within++;
    });
    expect(moved).toBeGreaterThan(1000);
    expect(within).toBe(moved);
    expect(
      patchFill(
        gapIn(texture, 20, () => false),
        3,
      ),
    ).toBeUndefined();
  });

  test('a large gap is searched at a smaller size, and told in its cells', () => {
    const side = 1200;
    const texture = waves(2);
    const hidden = (x: number, y: number): number => (Math.hypot(x - side / 2, y - side / 2) < 300 ? 1 : 0);
    const drawn =
      (of: (x: number, y: number) => number) =>
      (level: number, area: { x: number; y: number; width: number; height: number }): Float32Array =>
        plane(
          (x, y) => of((area.x + x + 0.5) * 2 ** level, (area.y + y + 0.5) * 2 ** level),
          area.width,
          area.height,
        );
    const light = drawn(texture);
    const around = { x: 0, y: 0, width: side, height: side };
    const found = fillFrom(
      { around, picture: (level, area) => [0, 1, 2].map(() => light(level, area)), gap: drawn(hidden) },
      1,
    );
    expect(found?.level).toBe(2);
    // 600 pixels across, and the rim
    expect(found?.width).toBeGreaterThanOrEqual(150);
    expect(found?.width).toBeLessThan(165);
    expect(fillFrom({ around, picture: () => [], gap: drawn(() => 0) }, 1)).toBeUndefined();
  });
});

const environments = new Map<string, ReturnType<typeof realEnvironment>>();

/** A view of a real environment as linear light, with something dark before it where it stands, at an exposure, with noise. */
function shot(name: string, thingAt: number | undefined, stops: number, seed: number): GapLight {
  const map = environments.get(name) ?? realEnvironment(name, W, H);
  environments.set(name, map);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.18 / sorted[sorted.length >> 1];
  const normal = normalSource(randomSource(seed));
  const texture = waves(31, 30);
  const planes = map.planes.map((p) =>
    p.map((v, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const isThing = thingAt !== undefined && Math.abs(x - thingAt) < 9 && Math.abs(y - H / 2) < 30;
      // the maps have no fine detail of their own
      const behind = Math.max(0, v) * gain * 2 ** (0.4 * texture(x, y));
      const light = 2 ** stops * (isThing ? 0.012 + 0.01 * texture(3 * x, y) : behind);
      return Math.min(
        1,
        Math.max(0, light + normal() * Math.sqrt(0.00012 * Math.max(0, light) + 0.0006 ** 2)),
      );
    }),
  );
  return { planes };
}

/** The same light as a merge shows it: dark parts opened. */
const opened = ({ planes }: GapLight): GapLight => ({ planes: planes.map((p) => p.map((v) => v ** 0.75)) });

describe('which frame shows what lies behind', () => {
  const gap = Uint8Array.from({ length: W * H }, (_, i) =>
    Math.abs((i % W) - 100) < 16 && Math.abs(Math.floor(i / W) - H / 2) < 38 ? 1 : 0,
  );

  // environments of the package @pmndrs/assets
  test.each(['forest', 'lobby'])('is told in %s, whatever the exposures and tones', (name) => {
    const picture = opened(shot(name, 100, 0, 1));
    const frames = [
      shot(name, 100, 0, 1),
      shot(name, 112, -1, 2),
      shot(name, 40, 0.7, 3),
      shot(name, 170, -1.5, 4),
    ];
    const found = frameAgreement(picture, frames, gap, W, H);
    expect([2, 3]).toContain(bestFrame(found));
    expect(found[0].other).toBeLessThan(0.06);
  });

  test.each(['forest', 'lobby'])('is none in %s where all show the same', (name) => {
    const frames = [0, -1, 1].map((stops, k) => shot(name, 100, stops, 10 + k));
    const found = frameAgreement(opened(frames[0]), frames, gap, W, H);
    expect(bestFrame(found)).toBe(-1);
  });

  test('is none that does not reach there, or is burnt out', () => {
    const picture = opened(shot('lobby', 100, 0, 1));
    const free = shot('lobby', undefined, 0, 2);
    const short = { ...free, alpha: Float32Array.from(gap, (_, i) => (i % W < 104 ? 1 : 0)) };
    const burnt = { planes: free.planes.map((p) => p.map((v, i) => (gap[i] ? 1 : v))) };
    const found = frameAgreement(picture, [short, burnt, free], gap, W, H);
    expect(found[0].missing).toBeGreaterThan(0.3);
    expect(found[1].clipped).toBeGreaterThan(0.9);
    expect(bestFrame(found)).toBe(2);
    expect(bestFrame(found.slice(0, 2))).toBe(-1);
  });

  test('a mean ΔE2000 about the gap says how far they agree', () => {
    const picture = shot('lobby', 100, 0, 1);
    const [{ about }] = frameAgreement(picture, [shot('lobby', undefined, -1, 2)], gap, W, H);
    let [sum, n] = [0, 0];
    const other = shot('lobby', undefined, 0, 5);
    const lab = (f: GapLight, i: number) => labOf(f.planes[0][i], f.planes[1][i], f.planes[2][i]);
    for (let i = 0; i < gap.length; i += 7)
      if (!gap[i]) {
        sum += deltaE2000(lab(picture, i), lab(other, i));
        n++;
      }
    expect(about / (sum / n)).toBeGreaterThan(0.7);
    expect(about / (sum / n)).toBeLessThan(1.5);
  });
});
