import { describe, expect, test } from '@jest/globals';
import { grain } from '@/core/edits/grain/grain';
import { type GrainSettings } from '@/core/edits/grain/grainSettings';
import { whiteNoise } from '@/core/edits/grain/grainPlane';
import { soften } from '@/core/edits/soften/soften';
import { inLight } from '@/core/graph/light';
import { type LightTile } from '@/core/graph/tile';
import { lightOf } from '@/core/graph/wanted';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { gaussianBlur } from '@/core/raster/gaussianBlur';
import { normalSource, randomSource } from '@/core/raster/random';
import sharp from 'sharp';
import { blockEdges } from './blockEdges';
import { edgeSpread } from './edgeSpread';
import { matchTexture, textureOf } from './matchTexture';
import { lumaOfNoise, NOISE_LEVELS, noiseByLevel } from './noiseByLevel';

const [W, H] = [330, 250];

/** Boards and discs of all tones with hard edges, softened by so many pixels, with noise σ² = a² + b² · code, blurred to a size; 16 bits. */
function picture(seed: number, { soft = 0, a = 0, b = 0, size = 0, colour = 1 } = {}): EncodedImage {
  const random = randomSource(seed);
  const things = Array.from({ length: 26 }, () => ({
    ...{ x: W * random(), y: H * random(), r: 12 + 40 * random(), square: random() < 0.5 },
    code: [0, 1, 2].map(() => 0.08 + 0.8 * random()),
  }));
  const clean = [0, 1, 2].map((c) => {
    const plane = Float32Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const at = things.find(({ x: u, y: v, r, square }) =>
        square ? Math.max(Math.abs(x - u), Math.abs(y - v)) < r : Math.hypot(x - u, y - v) < r,
      );
      return at?.code[c] ?? 0.35;
    });
    return soft > 0 ? gaussianBlur(plane, W, H, soft) : plane;
  });
  const normal = normalSource(random);
  const noise = (): Float32Array => {
    const white = Float32Array.from({ length: W * H }, normal);
    if (size === 0) return white;
    const blurred = gaussianBlur(white, W, H, size);
    const deviation = Math.sqrt(blurred.reduce((s, v) => s + v * v, 0) / blurred.length);
    return blurred.map((v) => v / deviation);
  };
  const common = noise();
  const data = new Uint16Array(3 * W * H);
  clean.forEach((plane, c) => {
    const own = noise();
    plane.forEach((v, i) => {
      const n = Math.sqrt(1 - colour) * common[i] + Math.sqrt(colour) * own[i];
      data[3 * i + c] = 65535 * Math.min(1, Math.max(0, v + Math.sqrt(a * a + b * b * v) * n)) + 0.5;
    });
  });
  return { width: W, height: H, white: 65535, data };
}

/** What an edit makes of a picture. */
function edited(image: EncodedImage, kind: typeof grain | typeof soften, settings: object): EncodedImage {
  const margin = kind.operators[0].needs?.(settings, AT, 0)?.area.x ?? 0;
  const by = -margin;
  const wide = { width: W + 2 * by, height: H + 2 * by };
  const inside = (v: number, most: number): number => Math.min(most - 1, Math.max(0, v));
  const tile: LightTile = {
    ...{ is: 'light', encoded: true },
    planes: [0, 1, 2].map((c) =>
      Float32Array.from({ length: wide.width * wide.height }, (_, i) => {
        const [x, y] = [i % wide.width, Math.floor(i / wide.width)];
        return image.data[3 * (inside(y - by, H) * W + inside(x - by, W)) + c] / 65535;
      }),
    ),
  };
  const input = kind.operators[0].works === 'linear' ? inLight(tile, false) : tile;
  const { planes } = inLight(lightOf(kind.operators[0].run?.([input], settings, AT), 'a test'), true);
  const data = Uint16Array.from(
    { length: 3 * W * H },
    (_, i) => 65535 * Math.min(1, Math.max(0, planes[i % 3][Math.floor(i / 3)])) + 0.5,
  );
  return { ...image, data };
}
const AT = { level: 0, area: { x: 0, y: 0, width: W, height: H }, kernel: 'lanczos' } as const;

const mean = (list: readonly (number | undefined)[]): number => {
  const known = list.filter((v) => v !== undefined);
  return known.reduce((s, v) => s + v, 0) / known.length;
};

describe('grain is measured', () => {
  test.each([1, 2, 5])('at σ %f of 255, at every level that is there', (codes) => {
    const found = noiseByLevel(picture(1, { a: codes / 255, soft: 0.8 }));
    const told = found?.sigmas.filter((s) => s !== undefined) ?? [];
    expect(told.length).toBeGreaterThanOrEqual(2);
    const factor = lumaOfNoise(1);
    expect((255 * mean(told)) / codes / factor).toBeGreaterThan(0.88);
    expect((255 * mean(told)) / codes / factor).toBeLessThan(1.15);
    expect(found?.colour).toBeGreaterThan(0.8);
  });

  test('with its size, and whether the channels differ', () => {
    const white = noiseByLevel(picture(2, { a: 3 / 255, colour: 0 }));
    expect(white?.size).toBeLessThan(0.35);
    expect(white?.colour).toBeLessThan(0.1);
    const coarse = noiseByLevel(picture(2, { a: 3 / 255, size: 0.8, colour: 0 }));
    expect(coarse?.size).toBeGreaterThan(0.65);
    expect(coarse?.size).toBeLessThan(0.95);
    expect((255 * mean(coarse?.sigmas ?? [])) / 3).toBeGreaterThan(0.8);
    expect((255 * mean(coarse?.sigmas ?? [])) / 3).toBeLessThan(1.25);
  });

  test('not where all is cut off, or clear', () => {
    const full = { ...picture(3, { a: 0.01 }), data: new Uint16Array(3 * W * H).fill(65535) };
    expect(noiseByLevel(full)).toBeUndefined();
    expect(textureOf({ ...picture(3, { a: 0.01 }), alpha: new Uint8Array(3 * W * H) })).toEqual({});
  });
});

test.each([0.8, 1.5, 2.5])('edges softened by %f px are measured so', (soft) => {
  const spread = edgeSpread(picture(4, { soft, a: 0.5 / 255 })) ?? 0;
  expect(spread / soft).toBeGreaterThan(0.88);
  expect(spread / soft).toBeLessThan(1.14);
});

describe('one is given the texture of the other', () => {
  test.each([
    ['a low sensitivity', { a: 0.8 / 255, b: 1.5 / 255, soft: 0.9, size: 0.3 }],
    ['a middle one', { a: 1.5 / 255, b: 4 / 255, soft: 1.3, size: 0.5 }],
    ['a high one', { a: 3 / 255, b: 8 / 255, soft: 1.8, size: 0.7 }],
  ])('%s: grain and edges within a tenth', (_, other) => {
    const [plate, scene] = [picture(5, { a: 0.4 / 255, soft: 0.6 }), picture(6, { ...other, colour: 0.4 })];
    const { soften: blur, grain: added } = matchTexture(plate, scene);
    expect(blur).toBeGreaterThan(0.3);
    const soft = edited(plate, soften, { radius: blur ?? 0 });
    const [own, wanted] = [textureOf(edited(soft, grain, added ?? {})), textureOf(scene)];
    expect((edgeSpread(soft) ?? 0) / (wanted.spread ?? 1)).toBeGreaterThan(0.9);
    expect((edgeSpread(soft) ?? 0) / (wanted.spread ?? 1)).toBeLessThan(1.1);
    const both = wanted.noise?.sigmas.flatMap((sigma, i) => {
      const mine = own.noise?.sigmas[i];
      return sigma === undefined || mine === undefined ? [] : [mine / sigma];
    });
    expect(mean(both ?? [])).toBeGreaterThan(0.9);
    expect(mean(both ?? [])).toBeLessThan(1.1);
  });

  test('what is softer is sharpened, what is grainier says how much is to go, what is alike is left', () => {
    const soft = matchTexture(picture(7, { soft: 1.6, a: 0.002 }), picture(8, { soft: 0.8, a: 0.002 }));
    expect(soft.sharpen?.amount).toBeGreaterThan(0.2);
    expect(soft.soften).toBeUndefined();
    const grainy = matchTexture(picture(7, { soft: 1, a: 0.02 }), picture(8, { soft: 1, a: 0.01 }));
    expect(grainy.denoise).toBeCloseTo(0.5, 1);
    expect(grainy.grain).toBeUndefined();
    const alike = matchTexture(picture(7, { soft: 1, a: 0.01 }), picture(8, { soft: 1, a: 0.01 }));
    expect(alike).toEqual({ own: alike.own, other: alike.other });
  });
});

describe('grain that is added', () => {
  const settings: GrainSettings = {
    ...{ strength: 4, size: 0.6, colour: 0.5 },
    shape: Array.from({ length: NOISE_LEVELS }, () => 1),
  };
  const flat: EncodedImage = {
    width: W,
    height: H,
    white: 65535,
    data: new Uint16Array(3 * W * H).fill(30000),
  };

  test('is as strong as it says, and the same in every tile', () => {
    const { data } = edited(flat, grain, settings);
    const off = [...data].map((v) => ((v - 30000) / 65535) * 255);
    expect(Math.sqrt(off.reduce((s, v) => s + v * v, 0) / off.length)).toBeCloseTo(4, 0);
    const part = { ...AT, area: { x: 100, y: 60, width: 50, height: 40 } };
    const tile: LightTile = {
      ...{ is: 'light', encoded: true },
      planes: [0, 1, 2].map(() => new Float32Array(50 * 40).fill(30000 / 65535)),
    };
    const own = lightOf(grain.operators[0].run?.([tile], settings, part), 'a test').planes[1];
    for (const k of [0, 777, 1999]) {
      const i = (60 + Math.floor(k / 50)) * W + 100 + (k % 50);
      expect(Math.abs(65535 * own[k] - data[3 * i + 1])).toBeLessThan(1.5);
    }
  });

  test('its noise is the same to the bit in its compiled and its plain form', () => {
    for (const area of [
      { x: -7, y: 12, width: 33, height: 9 },
      { x: 40000, y: -3, width: 6, height: 5 },
    ])
      expect(whiteNoise(area, 5)).toEqual(whiteNoise(area, 5, null));
  });

  test('is weaker at a halving, as the mean of four pixels is', () => {
    const strength = (level: number): number => {
      const tile: LightTile = {
        ...{ is: 'light', encoded: true },
        planes: [0, 1, 2].map(() => new Float32Array(W * H).fill(0.5)),
      };
      const { planes } = lightOf(
        grain.operators[0].run?.([tile], { ...settings, size: 0 }, { ...AT, level }),
        'a test',
      );
      return Math.sqrt(planes[1].reduce((s, v) => s + (v - 0.5) ** 2, 0) / (W * H));
    };
    expect(strength(1) / strength(0)).toBeCloseTo(0.5, 2);
  });
});

test('a blur of a cut-out draws no colour out of what is clear', () => {
  const planes = [0, 1, 2].map(() =>
    Float32Array.from({ length: 61 * 61 }, (_, i) => (i % 61 < 30 ? 0.8 : 0)),
  );
  const alpha = Float32Array.from({ length: 61 * 61 }, (_, i) => (i % 61 < 30 ? 1 : 0));
  const tile: LightTile = { is: 'light', encoded: false, planes, alpha };
  const at = { level: 0, area: { x: 0, y: 0, width: 47, height: 47 }, kernel: 'lanczos' } as const;
  const out = lightOf(soften.operators[0].run?.([tile], { radius: 2 }, at), 'a test');
  out.planes[0].forEach((v, i) => {
    if ((out.alpha?.[i] ?? 0) > 0.02) expect(v).toBeCloseTo(0.8, 4);
  });
  expect(out.alpha?.[23 * 47 + 22]).toBeGreaterThan(0.3);
  expect(out.alpha?.[23 * 47 + 22]).toBeLessThan(0.7);
});

test('the squares of a JPEG that was pressed hard show, those of a good one do not', async () => {
  const image = picture(9, { soft: 1, a: 0.006 });
  const raw = { width: W, height: H, channels: 3 as const };
  const bytes = Uint8Array.from(image.data, (v) => v / 257);
  const pressed = async (quality: number): Promise<number> => {
    const file = await sharp(bytes, { raw }).jpeg({ quality }).toBuffer();
    const data = await sharp(file).raw().toBuffer();
    return blockEdges({ width: W, height: H, white: 255, data: new Uint8Array(data) });
  };
  expect(await pressed(12)).toBeGreaterThan(1.5);
  // from 1.5 on it is said
  expect(await pressed(95)).toBeLessThan(1.4);
  expect(blockEdges(image)).toBeLessThan(1.1);
});
