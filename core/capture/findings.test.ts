import { describe, expect, test } from '@jest/globals';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { halveImage } from '@/core/raster/halveImage';
import { gaussianBlur } from '@/core/raster/gaussianBlur';
import { normalSource, randomSource } from '@/core/raster/random';
import { measuredFrame } from '@/tests/sampleScene';
import { paint, waves } from '@/tests/paint';
import { dustSpots } from './dust';
import { type MeasuredFrame } from './measuredFrame';
import { frameFindings } from './frameFindings';
import { noiseSigma } from './noise';
import { evenGains, prepareImage } from './prepareImage';
import { measureSet } from './setMeasures';
import { sharpnessOf } from './sharpness';

const [W, H] = [600, 400];
const texture = waves(61, 40);

/** A sky over a textured ground, shot with noise. */
function shot({ stops = 0, red = 0, shift = 0, sigma = 0.004, dust = false, seed = 1 } = {}): EncodedImage {
  const brighten = encodedGain(stops);
  const warm = encodedGain(red);
  const normal = normalSource(randomSource(seed));
  return paint(W, H, (x, y) => {
    const sky = y < 180 ? 0.62 - y / 2500 : 0.12 + 0.5 * texture(x + shift, y);
    const spot = dust && Math.hypot(x - 300, y - 70) < 6 ? 0.88 : 1;
    const v = brighten(sky * spot);
    return [warm(v) + sigma * normal(), v * 0.96 + sigma * normal(), v * 0.9 + sigma * normal()];
  });
}
const levels = (image: EncodedImage): EncodedImage[] => [image, halveImage(image)];

describe('noise (Immerkær 1996)', () => {
  test.each([0.004, 0.01, 0.03])('σ %d over a picture with structure is measured to a fifth', (sigma) => {
    const found = noiseSigma(shot({ sigma })) ?? 0;
    expect(Math.abs(found / sigma - 1)).toBeLessThan(0.2);
  });
  test('tones that are not there have no noise', () =>
    expect(noiseSigma(shot(), [0.97, 0.99])).toBeUndefined());
});

describe('sharpness', () => {
  const blurred = (image: EncodedImage, sigma: number): EncodedImage => {
    const planes = [0, 1, 2].map((c) =>
      Float32Array.from({ length: W * H }, (_, i) => image.data[i * 3 + c] / 255),
    );
    const soft = planes.map((p) => gaussianBlur(p, W, H, sigma));
    return paint(W, H, (x, y) => [soft[0][y * W + x], soft[1][y * W + x], soft[2][y * W + x]]);
  };
  const edges = paint(W, H, (x, y) =>
    (Math.floor(x / 23) + Math.floor(y / 19)) % 2 ? [0.7, 0.7, 0.7] : [0.3, 0.3, 0.3],
  );

  test('falls with blur, whatever the exposure', () => {
    const [sharp, soft, softer] = [0.5, 1.5, 3].map((s) => sharpnessOf(blurred(edges, s)) ?? 0);
    expect(sharp).toBeGreaterThan(soft * 1.2);
    expect(soft).toBeGreaterThan(softer * 1.1);
    const darker = paint(W, H, (x, y) => {
      const v = edges.data[(y * W + x) * 3] / 255 / 2;
      return [v, v, v];
    });
    expect(sharpnessOf(darker)).toBeCloseTo(sharpnessOf(edges) ?? 0, 1);
  });
});

describe('dust', () => {
  test('a spot at the same place of the sensor is found, though the camera moved', () => {
    const frames = [0, 5, 11].map((shift, k) => levels(shot({ shift, dust: true, seed: k })));
    const found = dustSpots(frames);
    expect(found.length).toBeGreaterThan(0);
    expect(Math.hypot(found[0].x - 300, found[0].y - 70)).toBeLessThan(10);
  });
  test('none is found where there is none, and one frame tells nothing', () => {
    expect(dustSpots([0, 5, 11].map((shift, k) => levels(shot({ shift, seed: k }))))).toEqual([]);
    expect(dustSpots([levels(shot({ dust: true }))])).toEqual([]);
  });
});

describe('a set against itself', () => {
  const set = [-2, 0, 2].map((stops, k) => levels(shot({ stops, seed: k })));

  test('colour and exposure agree on a clean set', () => {
    const { balance, stops } = measureSet(set, [-2, 0, 2], 1);
    for (const b of balance) expect(Math.max(...(b ?? [9]).map(Math.abs))).toBeLessThan(0.06);
    stops.forEach((s, k) => expect(s).toBeCloseTo([-2, 0, 2][k], 1));
  });

  test('a frame at another white balance is measured, and evened out', () => {
    const odd = shot({ stops: 2, red: 0.4, seed: 2 });
    const { balance } = measureSet([set[0], set[1], levels(odd)], [-2, 0, 2], 1);
    const found = balance[2];
    if (!found) throw new Error('not measured');
    expect(found[0]).toBeCloseTo(0.4, 1);
    const even = prepareImage(odd, evenGains(found));
    const again = measureSet([set[0], set[1], levels(even)], [-2, 0, 2], 1);
    expect(Math.abs(again.balance[2]?.[0] ?? 9)).toBeLessThan(0.05);
  });

  const frame = (name: string, change: Partial<MeasuredFrame> = {}) => measuredFrame(name, change);
  const verdict = (frames: MeasuredFrame[], id: string, set?: Parameters<typeof frameFindings>[2]) =>
    frameFindings(frames, 0, set).find((f) => f.id === id);
  const still = {
    dust: [],
    shades: [],
    balance: [
      [0, 0],
      [0, 0],
      [0, 0],
    ] as [number, number][],
    stops: [-2, 0, 2],
  };
  const three = (change: Partial<MeasuredFrame> = {}): MeasuredFrame[] => [
    frame('Frame 1', { stops: -2 }),
    frame('Frame 2'),
    frame('Frame 3', { stops: 2, ...change }),
  ];

  test('a clean set has no finding', () =>
    expect(frameFindings(three(), 0, still).filter((f) => f.verdict !== 'pass')).toEqual([]));

  test.each<[string, Partial<MeasuredFrame>]>([
    ['size', { width: 300, height: 200 }],
    ['orientation', { width: 400, height: 600 }],
    ['aperture', { facts: { aperture: 11 } }],
    ['lens', { facts: { lens: 'Fen 24' } }],
    ['focal length', { facts: { focalLength: 35 } }],
    ['white balance setting', { facts: { whiteBalance: 'auto' } }],
  ])('another %s is named', (what, change) => {
    const usual = { facts: { aperture: 8, lens: 'Fen 35', focalLength: 24, whiteBalance: 'set' } } as const;
    const frames = [
      frame('Frame 1', usual),
      frame('Frame 2', usual),
      frame('Frame 3', { ...usual, ...change }),
    ];
    const found = verdict(frames, 'frames.mismatch', still);
    expect(found?.verdict).toBe('watch');
    expect(found?.why).toContain(`Frame 3 differs in ${what}`);
  });

  test('another colour, another exposure, softness, noise and dust are found', () => {
    const odd = {
      ...still,
      balance: [
        [0, 0],
        [0, 0],
        [0.4, 0],
      ] as [number, number][],
    };
    expect(verdict(three(), 'frames.balance', odd)?.why).toContain('Frame 3 has another white balance');
    const lighter = { ...still, stops: [-2, 0, 2.8] };
    expect(verdict(three(), 'frames.exposure', lighter)?.why).toContain('Frame 3 is 0.8 EV lighter');
    const soft = [0.9, 0.88, 0.6].map((sharpness, i) => frame(`Frame ${i + 1}`, { measures: { sharpness } }));
    expect(verdict(soft, 'frames.sharpness')?.why).toContain('Frame 3 is less sharp');
    const noisy = [9, 5, 7].map((darkNoise, i) => frame(`Frame ${i + 1}`, { measures: { darkNoise } }));
    expect(verdict(noisy, 'frames.noise')).toMatchObject({ value: 5, verdict: 'watch' });
    expect(verdict(noisy, 'frames.noise')?.why).toContain('Frame 2 holds the cleanest darks');
    const dusty = { ...still, dust: [{ x: 100, y: 90, frames: 3 }] };
    expect(verdict(three(), 'frames.dust', dusty)).toMatchObject({ value: 1, verdict: 'watch' });
  });
});
