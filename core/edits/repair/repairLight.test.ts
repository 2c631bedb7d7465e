import { describe, expect, test } from '@jest/globals';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { inLight } from '@/core/graph/light';
import { versionOf } from '@/core/graph/operators';
import { type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { lightOf, maskOf } from '@/core/graph/wanted';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY, invert, type Matrix3, multiply, transform, translation } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { type Rectangle } from '@/core/raster/raster';
import { linearToSrgb } from '@/core/raster/srgb';
import { compileRegion } from '@/core/region/compileRegion';
import { fillFrom } from '@/core/repair/fillFrom';
import { imageLevels } from '@/engine/tasks';
import { realEnvironment } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { regionOf } from '@/tests/regionPlane';
import { repair } from './repair';
import { repairPlace } from './repairPlace';
import { type RepairSettings } from './repairSettings';

const [W, H] = [360, 240];
/** what must go, and what is painted over it */
const [THING, PAINTED] = [17, 26];
const [X, Y] = [190, 130];

type Light = (x: number, y: number) => readonly [number, number, number];

/** A scene at any place: a real environment with fine detail of its own. */
function sceneOf(name: string): Light {
  const map = realEnvironment(name, 512, 340);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.12 / sorted[sorted.length >> 1];
  const texture = waves(31, 30);
  const at = (p: Float32Array, x: number, y: number): number => {
    // spread out: between its own pixels nothing is hidden
    const [u, v] = [Math.min(510, Math.max(0, x / 2 + 70)), Math.min(338, Math.max(0, y / 2 + 50))];
    const [c, r] = [Math.floor(u), Math.floor(v)];
    const [fu, fv] = [u - c, v - r];
    const o = r * 512 + c;
    return (p[o] * (1 - fu) + p[o + 1] * fu) * (1 - fv) + (p[o + 512] * (1 - fu) + p[o + 513] * fu) * fv;
  };
  return (x, y) => {
    const detail = gain * 2 ** (0.35 * texture(x, y));
    const [r, g, b] = map.planes.map((p) => Math.min(0.9, Math.max(0.004, at(p, x, y) * detail)));
    return [r, g, b];
  };
}

/** A shot of it: where its pixels lie in the scene, its exposure, and its noise. */
function shoot(scene: Light, lies: Matrix3, stops: number, seed: number, thing = false): EncodedImage {
  const normal = normalSource(randomSource(seed));
  const image = emptyImage(W, H, 65535);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 3) {
      const [u, v] = transform(lies, x, y);
      const isThing = thing && Math.hypot(u - X, v - Y) < THING;
      const light = isThing ? ([0.6, 0.05, 0.02] as const) : scene(u, v);
      for (let c = 0; c < 3; c++) {
        const exposed = Math.min(1, 2 ** stops * light[c]);
        const noisy = exposed + (seed > 0 ? normal() * Math.sqrt(4e-6 * exposed + 2e-8) : 0);
        image.data[o + c] = Math.round(65535 * Math.min(1, Math.max(0, linearToSrgb(Math.max(0, noisy)))));
      }
    }
  return image;
}

/** A picture repaired, evaluated on an area. */
function repaired(
  picture: EncodedImage,
  settings: Partial<RepairSettings>,
  frame?: { readonly image: EncodedImage; readonly matrix: Matrix3 },
  area: Rectangle = { x: 0, y: 0, width: W, height: H },
  level = 0,
): readonly Float32Array[] {
  const g = buildGraph(versionOf);
  const input = g.add('samplePicture', { matrix: IDENTITY }, [g.add('frame', { hash: 'a' })]);
  const other = g.add('frame', { hash: 'b' });
  const region = regionOf({
    kind: 'ellipse',
    settings: {
      x: (X + 0.5) / W,
      y: (Y + 0.5) / W,
      across: PAINTED / W,
      down: PAINTED / W,
      turn: 0,
      soft: 0.25,
    },
  });
  const mask = compileRegion(g, region, { longEdge: W, named: () => undefined }) ?? '';
  const gap = { x: X - PAINTED, y: Y - PAINTED, width: 2 * PAINTED + 1, height: 2 * PAINTED + 1 };
  const place = repairPlace(gap, { width: W, height: H });
  if (!place) throw new Error('it lies in the picture');
  const offsets = g.add('fillFrom', { place });
  const values = new Map<string, Value>([
    [g.add('frame', { hash: 'a' }), { is: 'picture', levels: imageLevels(picture) }],
    ...(frame ? [[other, { is: 'picture', levels: imageLevels(frame.image) }] as const] : []),
  ]);
  const world = { made: (hash: string) => values.get(hash), cache: NO_CACHE, keeps: () => false };
  if (settings.from === 'around') {
    const light = (l: number, a: Rectangle) =>
      inLight(
        lightOf(evaluate(g.graph, input, { level: l, area: a, kernel: 'bilinear' }, world), 'a test'),
        true,
      ).planes;
    const hidden = (l: number, a: Rectangle) =>
      maskOf(evaluate(g.graph, mask, { level: l, area: a, kernel: 'bilinear' }, world), 'a test').plane;
    values.set(offsets, {
      is: 'fact',
      value: fillFrom({ around: place.around, picture: light, gap: hidden }, 1),
    });
  }
  const done = repair.compile(
    g,
    input,
    { ...repair.plain, ...settings },
    {
      where: { mask, place },
      offsets: () => offsets,
      frames: {
        ids: ['b'],
        alike: ['b'],
        lightOf: (id) =>
          id === 'b' && frame ? g.add('samplePicture', { matrix: frame.matrix }, [other]) : undefined,
      },
    },
  );
  const last = g.add('mix', { amount: 1 }, [input, done?.changed ?? '', mask]);
  return inLight(lightOf(evaluate(g.graph, last, { level, area, kernel: 'lanczos' }, world), 'a test'), false)
    .planes;
}

function planesOf({ data }: EncodedImage): readonly Float32Array[] {
  const decode = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
  return [0, 1, 2].map((c) =>
    Float32Array.from({ length: W * H }, (_, i) => decode(data[3 * i + c] / 65535)),
  );
}

/** Mean ΔE2000 of two pictures in a ring about what went. */
function difference(
  a: readonly Float32Array[],
  b: readonly Float32Array[],
  from: number,
  to: number,
): number {
  let [sum, n] = [0, 0];
  const lab = (p: readonly Float32Array[], i: number) => labOf(p[0][i], p[1][i], p[2][i]);
  for (let i = 0; i < W * H; i++) {
    const far = Math.hypot((i % W) - X, Math.floor(i / W) - Y);
    if (far < from || far >= to) continue;
    sum += deltaE2000(lab(a, i), lab(b, i));
    n++;
  }
  return sum / n;
}

const [COS, SIN] = [Math.cos(0.0087), Math.sin(0.0087)];
const TURN: Matrix3 = [COS, -SIN, 0, SIN, COS, 0, 0, 0, 1];

/** A hand-held frame: turned by half a degree, shifted by parts of a pixel. */
const HELD = multiply(translation(3.37, -2.18), TURN);

describe('a repair', () => {
  // environments of the package @pmndrs/assets, 512 × 256, with waves for fine detail
  test.each(['park', 'lobby'])(
    'from another frame of another exposure is the truth to 1 ΔE2000 in %s',
    (name) => {
      const scene = sceneOf(name);
      const picture = shoot(scene, IDENTITY, 0, 1, true);
      const image = shoot(scene, HELD, -1, 2);
      const truth = planesOf(shoot(scene, IDENTITY, 0, 0));
      const out = repaired(picture, { from: 'frame', frame: 'b' }, { image, matrix: invert(HELD) });
      const [within, before] = [out, planesOf(picture)].map((p) => difference(p, truth, 0, PAINTED));
      expect(within).toBeLessThan(1);
      expect(before).toBeGreaterThan(10 * within);
      // the frame laid there as it is
      const plain = planesOf(shoot(scene, IDENTITY, -1, 2));
      expect(difference(plain, truth, 0, PAINTED)).toBeGreaterThan(5 * within);
      // and nothing else is touched
      expect(difference(out, planesOf(picture), PAINTED + 1, 1000)).toBeLessThan(1e-3);
    },
  );

  test.each(['park', 'lobby'])('from around it has the light of what is about it in %s', (name) => {
    const scene = sceneOf(name);
    const picture = shoot(scene, IDENTITY, 0, 1, true);
    const truth = planesOf(shoot(scene, IDENTITY, 0, 0));
    const out = repaired(picture, { from: 'around' });
    const smooth = repaired(picture, { from: 'smooth' });
    const mean = (p: readonly Float32Array[], from: number, to: number): number => {
      const some = [...p[1]].filter((_, i) => {
        const far = Math.hypot((i % W) - X, Math.floor(i / W) - Y);
        return far >= from && far < to;
      });
      return some.reduce((sum, v) => sum + v, 0) / some.length;
    };
    // light to a tenth of a stop, and detail that smooth light has not
    expect(Math.abs(Math.log2(mean(out, 0, THING) / mean(truth, 0, THING)))).toBeLessThan(0.15);
    const detail = ([, g]: readonly Float32Array[]): number => {
      let sum = 0;
      for (let y = Y - 12; y < Y + 12; y++)
        for (let x = X - 12; x < X + 12; x++)
          sum += Math.abs(g[y * W + x - 1] - 2 * g[y * W + x] + g[y * W + x + 1]);
      return sum;
    };
    expect(detail(out) / detail(truth)).toBeGreaterThan(0.6);
    expect(detail(smooth) / detail(truth)).toBeLessThan(0.3);
  });

  test('is the same by tiles as in one piece, and much the same small as large', () => {
    const scene = sceneOf('park');
    const picture = shoot(scene, IDENTITY, 0, 1, true);
    const frame = { image: shoot(scene, HELD, -1, 2), matrix: invert(HELD) };
    for (const settings of [{ from: 'frame', frame: 'b' }, { from: 'around' }, { from: 'smooth' }] as const) {
      const [, whole] = repaired(picture, settings, frame);
      const tile = { x: X - 8, y: Y - 30, width: 40, height: 44 };
      const [, part] = repaired(picture, settings, frame, tile);
      const off = part.map((v, i) => {
        const at = (tile.y + Math.floor(i / tile.width)) * W + tile.x + (i % tile.width);
        return Math.abs(v - whole[at]);
      });
      expect(Math.max(...off)).toBeLessThan(2e-6);
      const [, half] = repaired(picture, settings, frame, { x: 0, y: 0, width: W / 2, height: H / 2 }, 1);
      let [sum, n] = [0, 0];
      for (let y = (Y - 20) >> 1; y < (Y + 20) >> 1; y++)
        for (let x = (X - 20) >> 1; x < (X + 20) >> 1; x++, n++) {
          const o = 2 * y * W + 2 * x;
          sum += Math.abs(
            half[(y * W) / 2 + x] - (whole[o] + whole[o + 1] + whole[o + W] + whole[o + W + 1]) / 4,
          );
        }
      expect(sum / n).toBeLessThan(0.006);
    }
  });

  test('that is everywhere is none: all of a picture cannot be replaced', () => {
    const g = buildGraph(versionOf);
    const input = g.add('fillColour', { colour: [0, 0, 0] });
    expect(repair.compile(g, input, repair.plain, {})).toBeUndefined();
  });
});
