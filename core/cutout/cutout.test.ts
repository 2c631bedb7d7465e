import { describe, expect, test } from '@jest/globals';
import { dab, overlap, plateOver } from '@/tests/knownCutout';
import { cutWithOpenCv, opencv } from '@/tests/opencv';
import { deltaE2000, labOf } from '../colour/deltaE';
import { randomSource, normalSource } from '../raster/random';
import { fitMixture, mixtureDensity } from './colourMixture';
import { conjugateGradient } from './conjugateGradient';
import { cutFromDabs, cutLight } from './cutFromDabs';
import { dabSeeds } from './dab';
import { foregroundColour } from './foregroundColour';
import { lightGrid } from './lightGrid';
import { kernels } from '../kernels/kernels';
import { closedFormMatte } from './mattingLaplacian';
import { sharedSampling } from './sharedSampling';
import { parseDabs } from './parseDabs';
import { squaredDistance } from './squaredDistance';
import { NOT, THIS, UNKNOWN } from './trimap';

describe('the parts', () => {
  test('distances are those to the nearest pixel of the set', () => {
    const random = randomSource(3);
    const [w, h] = [23, 17];
    const set = Uint8Array.from({ length: w * h }, () => (random() < 0.02 ? 1 : 0));
    const distance2 = squaredDistance(set, w, h);
    for (let i = 0; i < w * h; i++) {
      let least = Infinity;
      for (let j = 0; j < w * h; j++)
        if (set[j])
          least = Math.min(least, ((i % w) - (j % w)) ** 2 + (Math.floor(i / w) - Math.floor(j / w)) ** 2);
      expect(distance2[i]).toBe(least);
    }
    expect(squaredDistance(new Uint8Array(4), 2, 2).every((d) => d === 2 ** 40)).toBe(true);
  });

  test('a dab marks what lies under it, a later one covers it, a small one the nearest cell', () => {
    const seeds = dabSeeds(
      [
        {
          is: 'this',
          size: 6,
          points: [
            [5, 5],
            [15, 5],
          ],
        },
        { is: 'not', size: 2, points: [[10, 5]] },
      ],
      20,
      12,
    );
    const at = (x: number, y: number): number => seeds[y * 20 + x];
    expect([at(5, 5), at(15, 5), at(12, 7), at(10, 5), at(10, 9), at(2, 5), at(1, 5)]).toEqual([
      1, 1, 1, 0, -1, 1, -1,
    ]);
    const cells = dabSeeds([{ is: 'this', size: 1, points: [[9, 9]] }], 20, 20, 8);
    expect([...cells].filter((s) => s === 1).length).toBeGreaterThanOrEqual(1);
    expect(cells[1 * 3 + 1]).toBe(1);
  });

  test('a mixture finds the groups that samples were drawn from', () => {
    const normal = normalSource(randomSource(5));
    const groups = [
      { at: [20, 5, -10], spread: 2, count: 600 },
      { at: [70, -20, 30], spread: 4, count: 300 },
    ];
    const data = Float64Array.from(
      groups.flatMap(({ at, spread, count }) =>
        Array.from({ length: count }, () => at.map((v) => v + spread * normal())).flat(),
      ),
    );
    const mixture = fitMixture({ data, count: data.length / 3 }, 2, 0.01);
    const found = [0, 3].map((k) => [...mixture.means.slice(k, k + 3)]).sort((a, b) => a[0] - b[0]);
    found.forEach((mean, k) =>
      mean.forEach((v, c) => expect(Math.abs(v - groups[k].at[c])).toBeLessThan(0.6)),
    );
    // density of the first Gaussian at its mean: weight / ((2π)^1.5 σ³)
    const expected = 2 / 3 / ((2 * Math.PI) ** 1.5 * 8);
    // of 600 samples a spread is known to 3 %, so a volume to 5 %: three of these
    expect(Math.abs(mixtureDensity(mixture, groups[0].at, 0) / expected - 1)).toBeLessThan(0.15);
  });

  test('conjugate gradients solve a system whose answer is known', () => {
    // second differences with fixed ends: the answer is a parabola
    const n = 50;
    const multiply = (x: Float64Array, out: Float64Array): void => {
      for (let i = 0; i < n; i++) out[i] = 2 * x[i] - (x[i - 1] ?? 0) - (x[i + 1] ?? 0);
    };
    const system = { multiply, diagonal: new Float64Array(n).fill(2), right: new Float64Array(n).fill(1) };
    const x = conjugateGradient(system, new Float64Array(n), 200, 1e-9);
    for (let i = 0; i < n; i++) expect(x[i]).toBeCloseTo(((i + 1) * (n - i)) / 2, 4);
  });

  test('alpha comes out where the picture is a mix of two colours (Levin, Lischinski & Weiss 2008, their theorem)', () => {
    const [w, h] = [40, 24];
    const truth = Float32Array.from({ length: w * h }, (_, i) =>
      Math.max(0, Math.min(1, ((i % w) - 8) / 24 + 0.15 * Math.sin(i / w))),
    );
    const [F, B] = [
      [0.7, 0.3, 0.1],
      [0.05, 0.2, 0.5],
    ];
    const data = Float32Array.from({ length: 3 * w * h }, (_, j) => {
      const a = truth[Math.floor(j / 3)];
      return a * F[j % 3] + (1 - a) * B[j % 3];
    });
    const map = truth.map((a) => (a === 1 ? THIS : a === 0 ? NOT : UNKNOWN));
    const blank = { alpha: new Float32Array(w * h).fill(0.5), weight: new Float32Array(w * h) };
    const alpha = closedFormMatte({ width: w, height: h, data }, Uint8Array.from(map), blank);
    const errors = alpha.map((a, i) => Math.abs(a - truth[i])).sort();
    expect(errors[errors.length - 1]).toBeLessThan(0.02);
  });
});

describe('the kernels give what the plain forms do', () => {
  // a soft blob over a gradient, with noise; unknown in a ring, and once in the very corner
  const [w, h] = [61, 47];
  const random = randomSource(11);
  const truth = Float32Array.from({ length: w * h }, (_, i) => {
    const r = Math.hypot((i % w) - 30, Math.floor(i / w) - 22);
    return Math.max(0, Math.min(1, (18 - r) / 10));
  });
  const data = Float32Array.from({ length: 3 * w * h }, (_, j) => {
    const i = Math.floor(j / 3);
    const B = 0.1 + 0.3 * ((i % w) / w) * (j % 3 === 2 ? 1 : 0.4);
    return truth[i] * [0.7, 0.4, 0.1][j % 3] + (1 - truth[i]) * B + 0.01 * random();
  });
  const light = { width: w, height: h, data };
  const map = Uint8Array.from(truth, (a, i) => (i < 3 || (a > 0 && a < 1) ? UNKNOWN : a === 1 ? THIS : NOT));
  const compiled = kernels();
  if (!compiled) throw new Error('there are no kernels');
  const most = (a: Float32Array, b: Float32Array): number =>
    a.reduce((sum, v, i) => Math.max(sum, Math.abs(v - b[i])), 0);

  test('pairs of colours', () => {
    const [plain, by] = [sharedSampling(light, map, null), sharedSampling(light, map, compiled)];
    // where two pairs are as good as each other, rounding decides: few and alike
    expect(most(plain.alpha, by.alpha)).toBeLessThan(0.02);
    const off = plain.alpha.filter((a, i) => Math.abs(a - by.alpha[i]) > 1e-4).length;
    expect(off).toBeLessThan(0.02 * map.filter((m) => m === UNKNOWN).length);
    expect(most(plain.confidence, by.confidence)).toBeLessThan(0.03);
  });

  test('the matte', () => {
    const sampled = sharedSampling(light, map, null);
    const weight = sampled.confidence.map((c) => 3e-3 * c + 1e-5);
    const prior = { alpha: sampled.alpha, weight };
    const [plain, by] = [
      closedFormMatte(light, map, prior, null),
      closedFormMatte(light, map, prior, compiled),
    ];
    expect(most(plain, by)).toBeLessThan(2e-3);
    // and it is the picture's own
    expect(most(by, truth)).toBeLessThan(0.2);
  });

  test('colours of the thing alone', () => {
    const [plain, by] = [foregroundColour(light, truth, null), foregroundColour(light, truth, compiled)];
    expect(most(plain.inside, by.inside)).toBeLessThan(2e-3);
    expect(most(plain.outside, by.outside)).toBeLessThan(2e-3);
  });
});

describe('a file of dabs', () => {
  const good = { dabs: [{ is: 'this', size: 9, points: [[1, 2]] }] };
  test.each([
    ['{', 'it is not JSON'],
    ['{"dabs": [{"is": "that", "size": 9, "points": [[1, 2]]}]}', 'this, not'],
    ['{"dabs": [{"is": "this", "size": 9, "points": []}]}', 'points'],
    ['{"dabs": [{"is": "this", "size": -1, "points": [[1, 2]]}]}', 'size'],
    ['{"dabs": [{"is": "this", "size": 9, "points": [[1, null]]}]}', 'points'],
    ['{"dabs": [{"is": "not", "size": 9, "points": [[1, 2]]}]}', 'Add one on the thing'],
  ])('%s is refused by a sentence', (text, part) => {
    expect(() => parseDabs(text, 'mine.json')).toThrow('“mine.json”');
    expect(() => parseDabs(text, 'mine.json')).toThrow(part);
  });
  test('is read', () => expect(parseDabs(JSON.stringify(good), 'mine.json')).toEqual(good.dabs));
});

describe('a heron over a real meadow', () => {
  const [W, H] = [480, 340];
  const known = plateOver('heron', 'park', [W, H], { x: 120, y: 20, height: 305 });
  const { image, alpha: truth } = known;
  const dabs = [
    dab('this', [180, 145], [260, 125]),
    dab('this', [284, 80], [298, 80]),
    { ...dab('this', [223, 260], [223, 275]), size: 3 },
    dab('not', [60, 60], [120, 60]),
    dab('not', [60, 280], [140, 280]),
    dab('not', [350, 172], [440, 173]),
  ];

  test('is cut out by a few dabs, better than by OpenCV with the same, and the same each time', async () => {
    const light = lightGrid(image);
    const { alpha } = cutLight(light, dabs);
    const cv = await opencv();
    const baseline = overlap(cutWithOpenCv(cv, image, dabSeeds(dabs, W, H)), truth);
    const ours = overlap(alpha, truth);
    expect(ours).toBeGreaterThan(0.85);
    expect(ours).toBeGreaterThan(baseline);
    expect(cutLight(light, dabs).alpha).toEqual(alpha);
  }, 120_000);

  test('one dab on it and none beside it takes the border for not', () => {
    const { alpha } = cutFromDabs(
      image,
      dabs.filter((d) => d.is === 'this'),
    );
    expect(overlap(alpha, truth)).toBeGreaterThan(0.5);
  }, 120_000);

  test('its colours on a new background are its own, freed of the old one', () => {
    const light = lightGrid(image);
    const { inside } = foregroundColour(light, truth);
    let [sum, own, n] = [0, 0, 0];
    for (let i = 0; i < truth.length; i++) {
      const a = truth[i];
      if (a < 0.02 || a > 0.98) continue;
      const behind = ((i % W) >> 3) & 1 ? [0.8, 0.1, 0.6] : [0.1, 0.7, 0.2];
      const over = (colour: Float32Array) =>
        labOf(
          ...([0, 1, 2].map((c) => a * colour[3 * i + c] + (1 - a) * behind[c]) as [number, number, number]),
        );
      sum += deltaE2000(over(inside), over(known.colour));
      own += deltaE2000(over(light.data), over(known.colour));
      n++;
    }
    expect(n).toBeGreaterThan(500);
    // the study's 1.1 is of pictures softened by 0.7 px, which this plate is not
    expect(sum / n).toBeLessThan(1.5);
    expect(sum / n).toBeLessThan(own / n / 3);
  });
});
