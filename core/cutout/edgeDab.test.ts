import { describe, expect, test } from '@jest/globals';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb } from '@/core/raster/srgb';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { dab } from '@/tests/knownCutout';
import { realEnvironment } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { cutLight } from './cutFromDabs';
import { type Dab } from './dab';
import { lightGrid } from './lightGrid';
import { parseDabs } from './parseDabs';

const [W, H] = [300, 240];
const [X, Y, R] = [150, 150, 52];
/** px that strands stand out */
const LENGTH = 46;

/** How much a head with strands of hair covers each pixel. */
function hairAlpha(seed: number): Float32Array {
  const random = randomSource(seed);
  const alpha = new Float32Array(W * H);
  const cover = (x: number, y: number, by: number): void => {
    if (x < 0 || y < 0 || x >= W || y >= H) return;
    const i = y * W + x;
    alpha[i] = 1 - (1 - alpha[i]) * (1 - by);
  };
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) cover(x, y, Math.min(1, Math.max(0, R + 0.5 - Math.hypot(x - X, y - Y))));
  for (let k = 0; k < 90; k++) {
    const angle = Math.PI * (1.05 + 0.9 * random());
    const bend = 0.9 * (random() - 0.5);
    const long = LENGTH * (0.4 + 0.6 * random());
    for (let t = -6; t < long; t += 0.4) {
      const turn = angle + (bend * t) / long;
      const [x, y] = [X + (R + t) * Math.cos(turn), Y + (R + t) * Math.sin(turn)];
      const thin = 0.32 * (1 - 0.6 * Math.max(0, t / long));
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1],
      ]) {
        const [c, r] = [Math.floor(x) + dx, Math.floor(y) + dy];
        cover(c, r, thin * (1 - Math.abs(x - c)) * (1 - Math.abs(y - r)));
      }
    }
  }
  return alpha;
}

/** The head before a real environment. */
function portrait(environment: string, alpha: Float32Array): EncodedImage {
  const map = realEnvironment(environment, W, H);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.2 / sorted[sorted.length >> 1];
  const normal = normalSource(randomSource(3));
  const shade = waves(5);
  const image = emptyImage(W, H, 255);
  for (let i = 0; i < W * H; i++)
    for (let c = 0; c < 3; c++) {
      const hair = [0.035, 0.018, 0.01][c] * 2 ** (0.8 * shade(i % W, Math.floor(i / W)));
      const behind = Math.min(1, Math.max(0.01, map.planes[c][i] * gain));
      const light = alpha[i] * hair + (1 - alpha[i]) * behind;
      image.data[3 * i + c] = Math.round(255 * linearToSrgb(Math.max(0, light + 0.0015 * normal())));
    }
  return image;
}

const DABS: readonly Dab[] = [
  dab('this', [X - 25, Y], [X + 25, Y + 10]),
  dab('not', [10, 20], [290, 20]),
  dab('not', [10, 100], [10, 230]),
  dab('not', [290, 100], [290, 230]),
];

/** One stroke round the hair. */
const ROUND: Dab = {
  is: 'edge',
  size: 50,
  points: Array.from({ length: 25 }, (_, k) => {
    const angle = Math.PI * (1.02 + (0.96 * k) / 24);
    return [X + (R + 22) * Math.cos(angle), Y + (R + 22) * Math.sin(angle)];
  }),
};

/** Mean error of alpha where the hair stands. */
function errorIn(found: Float32Array, alpha: Float32Array): number {
  let [sum, n] = [0, 0];
  for (let y = 0, i = 0; y < Y; y++)
    for (let x = 0; x < W; x++, i++) {
      const far = Math.hypot(x - X, y - Y);
      if (far < R - 4 || far > R + LENGTH) continue;
      sum += Math.abs(found[i] - alpha[i]);
      n++;
    }
  return sum / n;
}

describe('an edge that a hand leaves undecided', () => {
  // environments of the package @pmndrs/assets
  test.each(['park', 'lobby'])(
    'hair over %s comes out better by one stroke round it, and nothing else changes',
    (name) => {
      const alpha = hairAlpha(7);
      const light = lightGrid(portrait(name, alpha));
      const [before, after] = [DABS, [...DABS, ROUND]].map((dabs) => cutLight(light, dabs).alpha);
      expect(errorIn(after, alpha) / errorIn(before, alpha)).toBeLessThan(0.8);
      expect(errorIn(after, alpha)).toBeLessThan(0.08);
      // the head itself, and what lies far below the stroke
      let other = 0;
      for (let y = Y + 10; y < H; y++)
        for (let x = 0; x < W; x++) if (Math.abs(after[y * W + x] - before[y * W + x]) > 0.2) other++;
      expect(other / (W * (H - Y - 10))).toBeLessThan(0.01);
    },
  );

  test('a dab drawn over it later decides again', () => {
    const alpha = hairAlpha(7);
    const light = lightGrid(portrait('park', alpha));
    const decided = dab('not', [X - 60, Y - 70], [X + 60, Y - 70]);
    const found = cutLight(light, [...DABS, ROUND, decided]).alpha;
    for (let x = X - 58; x < X + 58; x++) expect(found[(Y - 70) * W + x]).toBeLessThan(0.01);
  });

  test('is read from a file of dabs', () => {
    const file = { dabs: [{ is: 'this', size: 4, points: [[1, 2]] }, ROUND] };
    expect(parseDabs(JSON.stringify(file), 'dabs.json')).toEqual(file.dabs);
  });
});
