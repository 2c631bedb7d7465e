import { describe, expect, test } from '@jest/globals';
import { NO_ADJUST } from '@/core/match/adjust';
import { PLAIN_MASK } from '@/core/mask/mask';
import { straighteningOf } from '@/core/finish/straighten';
import { type EncodedImage, halveImage } from '@/core/raster/encodedImage';
import { IDENTITY } from '@/core/raster/matrix3';
import { linearToSrgb } from '@/core/raster/srgb';
import { PLAIN_SCENE } from '@/tests/sampleScene';
import { paint } from '@/tests/paint';
import { UNFINISHED } from './beforeScene';
import { finishedPlanes, resultPlanes } from './finishedPlanes';
import { layerPicture } from './layerPicture';
import { proofOf } from './proofOf';
import { renderView } from './renderView';
import { tracePoint } from './tracePoint';
import { type SceneLayer, type ViewScene } from './viewScene';

const [W, H] = [200, 140];
const whole = { x: 0, y: 0, width: W, height: H };
const levels = (image: EncodedImage): EncodedImage[] => [image, halveImage(image)];
const grey = linearToSrgb(0.18);
/** grey above a line that falls by 3° to the right, dark below */
const slanted = paint(
  W,
  H,
  (x, y) => (y < 70 + 0.0524 * (x - 100) ? [grey, grey * 0.9, grey * 0.8] : [0.2, 0.2, 0.2]),
  65535,
);
const layer = (change: Partial<SceneLayer> = {}): SceneLayer => ({
  id: 'merge',
  source: 'merge',
  opacity: 1,
  blend: 'normal',
  stops: 0,
  mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
  adjust: NO_ADJUST,
  ...change,
});
const scene = (change: Partial<ViewScene> = {}): ViewScene => ({
  ...PLAIN_SCENE,
  width: W,
  height: H,
  frames: [{ id: 'a', levels: levels(paint(W, H, () => [0.3, 0.3, 0.3])), matrix: IDENTITY, stops: 0 }],
  merge: { levels: levels(slanted), frames: ['a'], shares: [new Uint8Array(7000).fill(255)], noise: 0.01 },
  layers: [layer()],
  ...change,
});
const warmer = { ...NO_ADJUST, zones: [{ at: 0, by: 1 }] };

describe('the finished picture', () => {
  test('is straightened: the slanted edge runs level', () => {
    const straighten = straighteningOf({ level: [0, 64.76, 200, 75.24] }, { width: W, height: H });
    const [plane] = finishedPlanes(scene({ finish: { ...UNFINISHED, straighten } }), 0, whole, 'lanczos');
    const edge = (x: number): number =>
      Array.from({ length: H }, (_, y) => y).findIndex((y) => y > 40 && plane[y * W + x] < 0.3);
    expect(Math.abs(edge(40) - edge(160))).toBeLessThanOrEqual(1);
    const [plain] = finishedPlanes(scene(), 0, whole, 'lanczos');
    const before = Array.from({ length: H }, (_, y) => y).findIndex(
      (y) => y > 40 && plain[y * W + 160] < 0.3,
    );
    expect(before - edge(160)).toBeGreaterThan(2);
  });

  test('a rectangle of it is what that rectangle of the whole is', () => {
    const finish = {
      ...UNFINISHED,
      noise: 0.5,
      exposure: 0.3,
      sharpen: { radius: 1.7, amount: 0.8, edge: 0.2 },
    };
    const all = finishedPlanes(scene({ finish }), 0, whole, 'lanczos');
    const area = { x: 60, y: 50, width: 40, height: 30 };
    const part = finishedPlanes(scene({ finish }), 0, area, 'lanczos');
    for (let y = 0; y < 30; y += 3)
      for (let x = 0; x < 40; x += 3)
        expect(part[1][y * 40 + x]).toBeCloseTo(all[1][(y + 50) * W + x + 60], 5);
  });

  test('matching a set, a layer and the whole each change it', () => {
    const value = (s: ViewScene): number =>
      resultPlanes(s, 0, { x: 50, y: 20, width: 1, height: 1 }, 'lanczos')[1][0];
    const plain = value(scene());
    expect(value(scene({ match: { set: warmer, whole: NO_ADJUST } }))).toBeGreaterThan(plain * 1.2);
    expect(value(scene({ match: { set: NO_ADJUST, whole: warmer } }))).toBeGreaterThan(plain * 1.2);
    expect(value(scene({ layers: [layer({ adjust: warmer })] }))).toBeGreaterThan(plain * 1.2);
  });
});

describe('before and after', () => {
  const changed = scene({
    match: { set: NO_ADJUST, whole: warmer },
    finish: { ...UNFINISHED, exposure: 1 },
  });
  const code = (view: Parameters<typeof renderView>[1]): number =>
    renderView(changed, view, 0, { x: 50, y: 20, width: 1, height: 1 }, 'lanczos')[1];

  test('each step can be left out', () => {
    const [now, unfinished, unmatched, shot] = [
      code({ kind: 'finished' }),
      code({ kind: 'before', step: 'finish', finished: true }),
      code({ kind: 'before', step: 'match', finished: true }),
      code({ kind: 'before', step: 'fit', finished: true }),
    ];
    expect(now).toBeGreaterThan(unfinished);
    expect(unfinished).toBeGreaterThan(unmatched);
    expect(unmatched).toBe(Math.round(255 * grey * 0.9));
    expect(shot).toBe(Math.round(255 * 0.3));
  });

  test('edges and clipped places are hatched', () => {
    const sharpening = scene({ finish: { ...UNFINISHED, sharpen: { radius: 1.7, amount: 0, edge: 0.25 } } });
    const edges = renderView(sharpening, { kind: 'edges' }, 0, whole, 'lanczos');
    const plain = renderView(scene(), { kind: 'finished' }, 0, whole, 'lanczos');
    const differs = (y0: number, y1: number): number => {
      let n = 0;
      for (let i = y0 * W * 4; i < y1 * W * 4; i++) if (edges[i] !== plain[i]) n++;
      return n;
    };
    // the even sky is kept out of sharpening, the edge is not
    expect(differs(5, 40)).toBeGreaterThan(1000);
    const burnt = scene({
      merge: { levels: levels(paint(W, H, () => [1, 1, 1])), frames: [], shares: [], noise: 0 },
    });
    const hatched = renderView(burnt, { kind: 'proof' }, 0, whole, 'lanczos');
    expect(hatched.some((v) => v < 200)).toBe(true);
  });
});

describe('trace', () => {
  const traced = scene({
    match: { set: NO_ADJUST, whole: warmer },
    layers: [layer(), layer({ id: 'l', source: 'a', opacity: 0.5 })],
    finish: { ...UNFINISHED, exposure: 0.1 },
  });

  test('names every step with its value, and the one that moved it most', () => {
    const found = tracePoint(traced, { kind: 'finished' }, 50, 20);
    expect(found?.steps.map((s) => `${s.step} ${s.what}`)).toEqual([
      'frames a',
      'merge merge',
      'layers l',
      'match whole',
      'finish exposure',
    ]);
    expect(found?.steps[0].rgb[0]).toBeCloseTo(77, 3);
    expect(found?.steps[1].rgb[0]).toBeCloseTo(255 * grey, 0);
    expect(found?.steps[found.most ?? 0].what).toBe('whole');
    const last = found?.steps[found.steps.length - 1];
    expect(Math.round(last?.rgb[1] ?? 0)).toBe(found?.rgb[1]);
  });

  test('where nothing moves it visibly, no step is named', () => {
    const still = scene({
      merge: { levels: scene().frames[0].levels, frames: ['a'], shares: [new Uint8Array(7000)], noise: 0 },
    });
    expect(tracePoint(still, { kind: 'result' }, 50, 20)?.most).toBeUndefined();
    expect(tracePoint(still, { kind: 'result' }, -5, 20)).toBeUndefined();
  });
});

describe('a layered file and the proof', () => {
  test('a layer holds its mask as alpha and its own colour', () => {
    const stroke = { action: 'reveal', size: 0.3, softness: 0, flow: 1, points: [[0.25, 0.35, 1]] } as const;
    const masked = scene({
      layers: [
        layer(),
        layer({ id: 'l', source: 'a', mask: { ...PLAIN_MASK, base: 'hidden', strokes: [stroke] } }),
      ],
    });
    const rgba = layerPicture(masked, 'l', whole);
    const at = (x: number, y: number): number[] => [...rgba.subarray((y * W + x) * 4, (y * W + x) * 4 + 4)];
    expect(at(50, 70)).toEqual([77, 77, 77, 255]);
    expect(at(180, 20)[3]).toBe(0);
    expect(layerPicture(masked, 'gone', whole).every((v) => v === 0)).toBe(true);
  });

  test('a painted layer that differs spills; the proof says where', () => {
    const stroke = { action: 'reveal', size: 0.3, softness: 0.1, flow: 1, points: [[0.25, 0.2, 1]] } as const;
    const bright = {
      id: 'b',
      levels: levels(paint(W, H, () => [0.9, 0.9, 0.9])),
      matrix: IDENTITY,
      stops: 1,
    };
    const painted = scene({
      frames: [...scene().frames, bright],
      layers: [
        layer(),
        layer({ id: 'l', source: 'b', mask: { ...PLAIN_MASK, base: 'hidden', strokes: [stroke] } }),
      ],
    });
    const spill = (s: ViewScene) =>
      proofOf(s, halveImage(slanted), whole).find((f) => f.id === 'layers.spill');
    expect(spill(painted)?.verdict).not.toBe('pass');
    expect(spill(painted)?.where).toBeDefined();
    expect(spill(scene())).toBeUndefined();
  });
});
