import { describe, expect, test } from '@jest/globals';
import { PLAIN_MASK } from '@/core/mask/mask';
import { type EncodedImage, halveImage } from '@/core/raster/encodedImage';
import { IDENTITY, translation } from '@/core/raster/matrix3';
import { linearToSrgb } from '@/core/raster/srgb';
import { flat, paint, waves } from '@/tests/paint';
import { FRAME_COLOURS } from './frameColours';
import { hatch } from './hatch';
import { renderView } from './renderView';
import { tracePoint } from './tracePoint';
import { type View, type ViewScene } from './viewScene';
import { NO_ADJUST } from '../match/adjust';
import { PLAIN_SCENE } from '@/tests/sampleScene';
import { UNFINISHED } from './beforeScene';

const [W, H] = [80, 60];
const area = { x: 0, y: 0, width: W, height: H };
const texture = waves(14, 20);
const levels = (image: EncodedImage): EncodedImage[] => [image, halveImage(image)];
const textured = (dx: number, gain = 1): EncodedImage =>
  paint(W, H, (x, y) => {
    const v = (0.2 + 0.5 * texture(x + dx, y)) * gain;
    return [v, v, v];
  });

function scene(change: Partial<ViewScene> = {}): ViewScene {
  const half = Math.ceil(W / 2) * Math.ceil(H / 2);
  return {
    width: W,
    height: H,
    ...PLAIN_SCENE,
    frames: [
      { id: 'a', levels: levels(textured(0)), matrix: IDENTITY, stops: 0 },
      { id: 'b', levels: levels(textured(3)), matrix: translation(-3, 0), stops: 0 },
      { id: 'c', levels: levels(flat(W, H, 1)), stops: 3 },
    ],
    merge: {
      levels: levels(textured(0)),
      frames: ['a', 'b'],
      shares: [new Uint8Array(half).fill(255), new Uint8Array(half)],
      noise: 0,
    },
    layers: [
      {
        id: 'merge',
        source: 'merge',
        opacity: 1,
        blend: 'normal',
        stops: 0,
        mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
        adjust: NO_ADJUST,
      },
    ],
    ...change,
  };
}

const render = (view: View, from = scene(), level = 0) =>
  renderView(
    from,
    view,
    level,
    level === 0 ? area : { x: 0, y: 0, width: W >> 1, height: H >> 1 },
    'lanczos',
  );
const pixel = (rgba: Uint8ClampedArray, x: number, y: number, width = W): number[] => [
  ...rgba.slice((y * width + x) * 4, (y * width + x) * 4 + 3),
];
const spread = (rgba: Uint8ClampedArray, from: number, to: number): number => {
  let least = 255;
  let most = 0;
  for (let y = 8; y < H - 8; y++)
    for (let x = from; x < to; x++) {
      const [v] = pixel(rgba, x, y);
      least = Math.min(least, v);
      most = Math.max(most, v);
    }
  return most - least;
};

describe('views', () => {
  test('the finished picture is exposed, the result is not', () => {
    const grey = levels(flat(W, H, linearToSrgb(0.18), 65535));
    const merge = { ...scene().merge, levels: grey, frames: ['a'], shares: [], noise: 0 };
    const [v] = pixel(render({ kind: 'result' }, scene({ merge })), 40, 30);
    const [brighter] = pixel(
      render({ kind: 'finished' }, scene({ merge, finish: { ...UNFINISHED, exposure: 1 } })),
      40,
      30,
    );
    expect(v).toBe(Math.round(255 * linearToSrgb(0.18)));
    expect(brighter).toBe(Math.round(255 * linearToSrgb(0.36)));
  });

  test('a level shows the same picture at half the size', () => {
    const full = render({ kind: 'result' });
    const half = render({ kind: 'result' }, scene(), 1);
    for (let y = 3; y < 27; y += 4)
      for (let x = 3; x < 37; x += 4) {
        const mean =
          (pixel(full, 2 * x, 2 * y)[0] +
            pixel(full, 2 * x + 1, 2 * y)[0] +
            pixel(full, 2 * x, 2 * y + 1)[0] +
            pixel(full, 2 * x + 1, 2 * y + 1)[0]) /
          4;
        expect(Math.abs(pixel(half, x, y, 40)[0] - mean)).toBeLessThan(2);
      }
  });

  test('the residual of a fitted frame is even grey; of one a pixel off it shows edges', () => {
    expect(spread(render({ kind: 'residual', frame: 'b', gain: 8 }), 8, W - 8)).toBeLessThan(12);
    const off = scene({ frames: [scene().frames[0], { ...scene().frames[1], matrix: translation(-2, 0) }] });
    expect(spread(render({ kind: 'residual', frame: 'b', gain: 8 }, off), 8, W - 8)).toBeGreaterThan(60);
  });

  test('the residual is signed: a lighter frame is lighter than middle grey', () => {
    const lighter = scene({
      frames: [scene().frames[0], { ...scene().frames[1], levels: levels(textured(3, 1.1)) }],
    });
    const rgba = render({ kind: 'residual', frame: 'b', gain: 4 }, lighter);
    let sum = 0;
    for (let y = 10; y < 50; y++) for (let x = 10; x < 70; x++) sum += pixel(rgba, x, y)[0];
    expect(sum / 2400).toBeGreaterThan(135);
  });

  test('a fitted frame lies on the reference, grey where it does not reach', () => {
    const rgba = render({ kind: 'fitted', frame: 'b' });
    const reference = render({ kind: 'fitted', frame: 'a' });
    expect(Math.abs(pixel(rgba, 40, 30)[0] - pixel(reference, 40, 30)[0])).toBeLessThan(4);
    expect(pixel(rgba, 0, 30)).toEqual([117, 117, 117]);
    expect(pixel(render({ kind: 'fitted', frame: 'c' }), 5, 5)).toEqual([117, 117, 117]);
  });

  test('clipping is hatched, and only when asked for', () => {
    const plain = render({ kind: 'shot', frame: 'c', clipping: false });
    expect(new Set(plain).size).toBe(1);
    expect(new Set(render({ kind: 'shot', frame: 'c', clipping: true })).size).toBeGreaterThan(1);
  });

  test('origin shows the colour of the frame that made the pixel', () => {
    const [r, g, b] = pixel(render({ kind: 'origin' }), 40, 30);
    const [R, G, B] = FRAME_COLOURS[0];
    expect(R / (G + B)).toBeCloseTo(r / (g + b), 1);
  });

  test('the mask view hatches what is shown and leaves the rest', () => {
    const layer = { id: 'l', source: 'b', opacity: 1, blend: 'normal', stops: 0, adjust: NO_ADJUST } as const;
    const stroke = { action: 'reveal', size: 0.5, softness: 0, flow: 1, points: [[0.25, 0.375, 1]] } as const;
    const from = scene({
      layers: [scene().layers[0], { ...layer, mask: { ...PLAIN_MASK, base: 'hidden', strokes: [stroke] } }],
    });
    const mask = render({ kind: 'mask', layer: 'l' }, from);
    const result = render({ kind: 'result' }, from);
    const changed = (x0: number, x1: number): number => {
      let n = 0;
      for (let y = 20; y < 40; y++)
        for (let x = x0; x < x1; x++) if (pixel(mask, x, y)[0] !== pixel(result, x, y)[0]) n++;
      return n / 20 / (x1 - x0);
    };
    expect(changed(15, 25)).toBeGreaterThan(0.2);
    expect(changed(60, 78)).toBe(0);
  });

  test('hatching of neighbouring pieces joins', () => {
    const piece = (x: number, width: number): Uint8ClampedArray => {
      const rgba = new Uint8ClampedArray(width * 10 * 4).fill(128);
      hatch(rgba, width, new Float32Array(width * 10).fill(1), true, x, 0);
      return rgba;
    };
    const whole = piece(0, 40);
    const right = piece(23, 17);
    for (let y = 0; y < 10; y++)
      for (let x = 0; x < 17; x++) expect(right[(y * 17 + x) * 4]).toBe(whole[(y * 40 + x + 23) * 4]);
  });
});

describe('trace', () => {
  test('names codes, zone in stops from middle grey, and the frames that made the pixel', () => {
    const merge = {
      levels: levels(flat(W, H, linearToSrgb(0.09), 65535)),
      frames: ['a', 'b'],
      shares: [new Uint8Array(1200).fill(64), new Uint8Array(1200).fill(191)],
      noise: 0,
    };
    const found = tracePoint(scene({ merge }), { kind: 'result' }, 12, 20);
    expect(found?.zone).toBeCloseTo(-1, 2);
    expect(found?.rgb[0]).toBe(Math.round(255 * linearToSrgb(0.09)));
    expect(found?.shares[0]).toEqual({ frame: 'b', share: expect.closeTo(0.75, 2) });
  });

  test('there is nothing to say outside the picture', () => {
    expect(tracePoint(scene(), { kind: 'result' }, -1, 5)).toBeUndefined();
    expect(tracePoint(scene(), { kind: 'result' }, 5, H)).toBeUndefined();
  });
});
