import { describe, expect, test } from '@jest/globals';
import { PLAIN_LAYER } from '@/core/layers/layer';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY, translation } from '@/core/raster/matrix3';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { type Project } from '@/core/recipe/project';
import { EVERYWHERE } from '@/core/region/region';
import { flat, paint, waves } from '@/tests/paint';
import { type SceneParts, sceneOf, sizedProject, twoLevels } from '@/tests/sampleScene';
import { FRAME_COLOURS } from './frameColours';
import { hatch } from './hatch';
import { type MaskForm, showMask } from './showMask';
import { MOST_DIFFERENCE, renderView } from './renderView';
import { sceneForView } from './sceneForView';
import { tracePoint } from './tracePoint';
import { type SetScene, type View, type ViewScene } from './viewScene';

const [W, H] = [80, 60];
const area = { x: 0, y: 0, width: W, height: H };
const texture = waves(14, 20);
const textured = (dx: number, gain = 1): EncodedImage =>
  paint(W, H, (x, y) => {
    const v = (0.2 + 0.5 * texture(x + dx, y)) * gain;
    return [v, v, v];
  });

const plain: Project = { ...sizedProject(W, H), edits: [] };

function set(change: Partial<SetScene> = {}): SetScene {
  const half = Math.ceil(W / 2) * Math.ceil(H / 2);
  return {
    width: W,
    height: H,
    frames: [
      { id: 'a', levels: twoLevels(textured(0)), matrix: IDENTITY, stops: 0 },
      { id: 'b', levels: twoLevels(textured(3)), matrix: translation(-3, 0), stops: 0 },
      { id: 'c', levels: twoLevels(flat(W, H, 1)), stops: 3 },
    ],
    merge: {
      levels: twoLevels(textured(0)),
      frames: ['a', 'b'],
      shares: [new Uint8Array(half).fill(255), new Uint8Array(half)],
      noise: 0,
    },
    ...change,
  };
}

const scene = (change: Partial<SetScene> = {}): ViewScene => ({
  ...sceneOf(plain, { merge: textured(0) }).scene,
  set: set(change),
});

const render = (view: View, from = scene(), level = 0) =>
  renderView(
    sceneForView(from, view),
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
  test('the finished picture is exposed as its edits say', () => {
    const merge = flat(W, H, linearToSrgb(0.18), 65535);
    const exposed = (stops: number): number[] =>
      pixel(
        render(
          { kind: 'finished' },
          sceneOf(
            { ...plain, edits: [{ id: 'e', kind: 'exposure', settings: { stops }, amount: 1, on: true }] },
            { merge },
          ).scene,
        ),
        40,
        30,
      );
    expect(exposed(0)[0]).toBe(Math.round(255 * linearToSrgb(0.18)));
    expect(exposed(1)[0]).toBe(Math.round(255 * linearToSrgb(0.36)));
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

  test('a part of a view is that part of the whole', () => {
    const whole = render({ kind: 'result' });
    const part = renderView(
      scene(),
      { kind: 'result' },
      0,
      { x: 21, y: 13, width: 30, height: 20 },
      'lanczos',
    );
    for (let y = 0; y < 20; y += 3)
      for (let x = 0; x < 30; x += 3) expect(pixel(part, x, y, 30)).toEqual(pixel(whole, x + 21, y + 13));
  });

  test('the residual of a fitted frame is even grey; of one a pixel off it shows edges', () => {
    expect(spread(render({ kind: 'residual', frame: 'b', gain: 8 }), 8, W - 8)).toBeLessThan(12);
    const [a, b] = set().frames;
    const off = scene({ frames: [a, { ...b, matrix: translation(-2, 0) }] });
    expect(spread(render({ kind: 'residual', frame: 'b', gain: 8 }, off), 8, W - 8)).toBeGreaterThan(60);
  });

  test('the residual is signed: a lighter frame is lighter than middle grey', () => {
    const [a, b] = set().frames;
    const lighter = scene({ frames: [a, { ...b, levels: twoLevels(textured(3, 1.1)) }] });
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
    const shot = render({ kind: 'shot', frame: 'c', clipping: false });
    expect(new Set(shot).size).toBe(1);
    expect(new Set(render({ kind: 'shot', frame: 'c', clipping: true })).size).toBeGreaterThan(1);
  });

  test('origin shows the colour of the frame that made the pixel', () => {
    const [r, g, b] = pixel(render({ kind: 'origin' }), 40, 30);
    const [R, G, B] = FRAME_COLOURS[0];
    expect(R / (G + B)).toBeCloseTo(r / (g + b), 1);
  });

  test('the mask view hatches what is shown and leaves the rest', () => {
    const stroke = { action: 'reveal', size: 0.5, softness: 0, flow: 1, points: [[0.25, 0.375, 1]] } as const;
    const { scene: from, compiled } = sceneOf(
      {
        ...plain,
        layers: [
          ...plain.layers,
          {
            ...PLAIN_LAYER,
            id: 'l',
            name: 'l',
            kind: 'picture',
            source: { kind: 'frame', frame: 'light' },
            where: {
              ...EVERYWHERE,
              id: 'w',
              name: '',
              parts: [
                {
                  how: 'add',
                  part: { kind: 'strokes', settings: { strokes: [stroke] } },
                  turned: false,
                  on: true,
                },
              ],
            },
          },
        ],
      },
      { merge: textured(0), frames: { light: textured(3) } },
    );
    const hash = compiled.layers.find((l) => l.id === 'l')?.mask ?? '';
    const mask = render({ kind: 'mask', mask: hash, late: false }, from);
    const result = render({ kind: 'result' }, from);
    const changed = (x0: number, x1: number): number => {
      let n = 0;
      for (let y = 20; y < 40; y++)
        for (let x = x0; x < x1; x++) if (pixel(mask, x, y)[0] !== pixel(result, x, y)[0]) n++;
      return n / 20 / (x1 - x0);
    };
    expect(changed(15, 25)).toBeGreaterThan(0.2);
    expect(changed(60, 78)).toBe(0);
    const shown = (form: MaskForm) => render({ kind: 'mask', mask: hash, late: false, form }, from);
    const [alone, cut, edge] = [shown('alone'), shown('cut'), shown('edge')];
    // in the middle of the stroke and far from it
    expect([pixel(alone, 20, 30)[0], pixel(alone, 70, 30)[0]]).toEqual([255, 0]);
    expect(pixel(cut, 20, 30)).toEqual(pixel(result, 20, 30));
    expect(pixel(cut, 70, 30)).toEqual([118, 118, 118]);
    // the line lies between what is more and what is less than half, light within and dark without
    for (let x = 1; x < 79; x++) {
      const [here, next] = [pixel(alone, x, 30)[0] >= 128, pixel(alone, x + 1, 30)[0] >= 128];
      if (here !== next) {
        expect(pixel(edge, x, 30)[0]).toBe(here ? 245 : 20);
        expect(pixel(edge, x + 1, 30)[0]).toBe(next ? 245 : 20);
      }
    }
    expect(pixel(edge, 70, 30)).toEqual(pixel(result, 70, 30));
  });

  test('the line of an edge joins across pieces of a view', () => {
    const size = { width: 24, height: 10 };
    const maskOf = (x: number, y: number): number => (x + 2 * y < 21 ? 1 : 0);
    const piece = (x0: number, width: number): Uint8ClampedArray => {
      const rgba = new Uint8ClampedArray(width * size.height * 4).fill(128);
      const mask = Float32Array.from({ length: (width + 2) * (size.height + 2) }, (_, i) =>
        maskOf(x0 - 1 + (i % (width + 2)), Math.floor(i / (width + 2)) - 1),
      );
      showMask(rgba, mask, 'edge', { x: x0, y: 0, width, height: size.height });
      return rgba;
    };
    const [whole, right] = [piece(0, size.width), piece(11, 13)];
    expect(whole.some((v) => v === 245)).toBe(true);
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < 13; x++) expect(right[(y * 13 + x) * 4]).toBe(whole[(y * size.width + x + 11) * 4]);
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

describe('how far the picture lies from something', () => {
  const drawn = scene();
  const node = drawn.picture?.result ?? '';

  test('is nothing to itself, and nothing to the frame that it was merged from', () => {
    const [itself, frame] = [{ node }, { frame: 'a' }].map((to) =>
      render({ kind: 'difference', node, to }, drawn),
    );
    expect(spread(itself, 8, W - 8)).toBe(0);
    expect(pixel(itself, 40, 30)).toEqual([0, 0, 0]);
    expect(Math.max(...pixel(frame, 40, 30))).toBeLessThanOrEqual(2);
  });

  test('is CIEDE2000 of twenty from dark to light, hatched where a frame does not reach', () => {
    const levels = twoLevels(flat(W, H, 0.5));
    const far = scene({ frames: [{ id: 'f', levels, matrix: translation(-40, 0), stops: 0 }] });
    const shown = render({ kind: 'difference', node, to: { frame: 'f' } }, far);
    const [r] = pixel(render({ kind: 'result' }, far), 60, 30);
    const lab = (code: number) =>
      labOf(...([0, 1, 2].map(() => srgbToLinear(code / 255)) as [number, number, number]));
    const want = (255 * deltaE2000(lab(r), lab(127.5))) / MOST_DIFFERENCE;
    expect(pixel(shown, 60, 30)[0]).toBeGreaterThan(0);
    expect(Math.abs(pixel(shown, 60, 30)[0] - want)).toBeLessThan(6);
    // it begins at column 40
    expect(new Set([...Array(20).keys()].map((i) => pixel(shown, 10 + i, 30)[0])).size).toBeGreaterThan(1);
  });

  test('a frame that is not fitted has nothing to show', () => {
    const shown = render({ kind: 'difference', node, to: { frame: 'c' } }, drawn);
    expect(pixel(shown, 40, 30)).toEqual(pixel(shown, 10, 10));
  });
});

describe('trace', () => {
  const traced = (parts: SceneParts) => {
    const { scene: from, compiled } = sceneOf(plain, parts, { spine: true });
    return { from, spine: compiled.spine };
  };

  test('names codes, zone in stops from middle grey, and the frames that made the pixel', () => {
    const { from, spine } = traced({
      merge: flat(W, H, linearToSrgb(0.09), 65535),
      shares: [new Uint8Array(1200).fill(64), new Uint8Array(1200).fill(191), new Uint8Array(1200)],
    });
    const found = tracePoint(from, { kind: 'result' }, 12, 20, spine);
    expect(found?.zone).toBeCloseTo(-1, 2);
    expect(found?.rgb[0]).toBe(Math.round(255 * linearToSrgb(0.09)));
    expect(found?.shares[0]).toEqual({ frame: 'mid', share: expect.closeTo(0.75, 2) });
  });

  test('there is nothing to say outside the picture', () => {
    const { from, spine } = traced({ merge: textured(0) });
    expect(tracePoint(from, { kind: 'result' }, -1, 5, spine)).toBeUndefined();
    expect(tracePoint(from, { kind: 'result' }, 5, H, spine)).toBeUndefined();
  });
});
