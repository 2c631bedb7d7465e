import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { decodeImage } from '@/core/codecs/decodeImage';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { invert, type Matrix3, multiply, transform } from '@/core/raster/matrix3';
import { randomSource } from '@/core/raster/random';
import { boxMean } from '@/core/raster/boxMean';
import { encodeClipped, srgbToLinear } from '@/core/raster/srgb';
import { coverage, warpImage } from '@/core/raster/warp';
import { registerPair } from '@/core/register/registerPair';
import { nodePlatform } from '@/engine/nodePlatform';

// node dist/benchmarkFar.mjs PICTURES…: pairs of photographs by known transforms across the reach of the fit, with noise, JPEG, exposure and things
// that cover; what does not lie in a picture is filled from the next one.

const [W, H] = [1200, 800];
const random = randomSource(1);
const within = (low: number, high: number): number => low + (high - low) * random();
const sign = (): number => (random() < 0.5 ? -1 : 1);

/** One way to be far: reference pixel → frame pixel, and what else differs. */
interface Far {
  readonly map: Matrix3;
  readonly stops?: number;
  readonly covers?: boolean;
  readonly size?: readonly [number, number];
  /** light from elsewhere: local contrast turns round in places */
  readonly relit?: boolean;
}

/** Turned and enlarged about the middle, then shifted. */
function moved(degrees: number, scale: number, dx = 0, dy = 0): Matrix3 {
  const a = (degrees * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(a), scale * Math.sin(a)];
  const [cx, cy] = [(W - 1) / 2, (H - 1) / 2];
  return [c, -s, cx - c * cx + s * cy + dx, s, c, cy - s * cx - c * cy + dy, 0, 0, 1];
}

/** A wall turned away by so many degrees about an axis through its middle. */
function oblique(degrees: number, axis: number): Matrix3 {
  const a = (degrees * Math.PI) / 180;
  const [cx, cy, f] = [(W - 1) / 2, (H - 1) / 2, 1.2 * W];
  const spin = (t: number): Matrix3 => [Math.cos(t), -Math.sin(t), 0, Math.sin(t), Math.cos(t), 0, 0, 0, 1];
  const turned: Matrix3 = [Math.cos(a), 0, 0, 0, 1, 0, Math.sin(a) / f, 0, 1];
  const about = multiply(spin(axis), multiply(turned, spin(-axis)));
  return multiply([1, 0, cx, 0, 1, cy, 0, 0, 1], multiply(about, [1, 0, -cx, 0, 1, -cy, 0, 0, 1]));
}

const WAYS: Readonly<Record<string, () => Far>> = {
  'nearly on it': () => ({
    map: moved(within(-0.5, 0.5), within(0.997, 1.003), within(-20, 20), within(-20, 20)),
  }),
  'turned 6° to 30°': () => ({ map: moved(sign() * within(6, 30), 1, within(-40, 40), within(-40, 40)) }),
  'upside down': () => ({ map: moved(180 + within(-8, 8), 1, within(-30, 30), within(-30, 30)) }),
  '0.6 to 1.7 times': () => ({
    map: moved(
      within(-3, 3),
      random() < 0.5 ? within(0.6, 0.85) : within(1.15, 1.7),
      within(-60, 60),
      within(-40, 40),
    ),
  }),
  'shifted 15 to 55 %': () => ({
    map: moved(within(-3, 3), within(0.95, 1.05), sign() * within(0.15, 0.55) * W, within(-80, 80)),
  }),
  'oblique by 20° to 50°': () => ({
    map: multiply(moved(within(-5, 5), within(0.9, 1.1)), oblique(within(20, 50), within(0, 2 * Math.PI))),
  }),
  'turned, 2 to 4 EV': () => ({
    map: moved(within(4, 12), within(0.9, 1.1), within(-60, 60), within(-40, 40)),
    stops: sign() * within(2, 4),
  }),
  'turned, a third covered': () => ({
    map: moved(within(-10, 10), within(0.9, 1.12), within(-60, 60), within(-50, 50)),
    covers: true,
  }),
  'in other light': () => ({
    map: moved(within(-4, 4), within(0.95, 1.05), within(-30, 30), within(-25, 25)),
    relit: true,
  }),
  'a smaller crop': () => {
    const k = within(0.7, 1);
    const cut: Matrix3 = [k, 0, -within(100, 300) * k, 0, k, -within(50, 200) * k, 0, 0, 1];
    return { map: multiply(cut, moved(within(-1, 1), 1)), size: [Math.round(900 * k), Math.round(600 * k)] };
  },
};

const platform = nodePlatform();

/** A smooth field of numbers between two, from a few at random. */
function smoothField(
  width: number,
  height: number,
  low: number,
  high: number,
): (x: number, y: number) => number {
  const cells = 4;
  const at = Array.from({ length: (cells + 1) ** 2 }, () => within(low, high));
  const ease = (t: number): number => t * t * (3 - 2 * t);
  return (x, y) => {
    const [u, v] = [(cells * x) / width, (cells * y) / height];
    const [i, j] = [Math.min(cells - 1, Math.floor(u)), Math.min(cells - 1, Math.floor(v))];
    const [p, q] = [ease(u - i), ease(v - j)];
    const row = (k: number): number => (1 - p) * at[k * (cells + 1) + i] + p * at[k * (cells + 1) + i + 1];
    return (1 - q) * row(j) + q * row(j + 1);
  };
}

/** pixels around over which light is a place's own */
const LOCAL = 25;

/** Light by other light, in place: how much things differ from what is around them is −1 to 1.2 times what it was, the whole 1 to 4 stops darker and redder. */
function relight(light: readonly Float32Array[], width: number, height: number): void {
  const contrast = smoothField(width, height, -1, 1.2);
  const stops = smoothField(width, height, -4, -1);
  const grey = light[0].map((_, i) => 0.003 + (light[0][i] + light[1][i] + light[2][i]) / 3);
  const logs = grey.map((v) => Math.log2(v));
  const around = boxMean(boxMean(logs, width, height, LOCAL), width, height, LOCAL);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const to = 2 ** (stops(x, y) + contrast(x, y) * (logs[i] - around[i])) / grey[i];
      [1.3, 0.9, 0.6].forEach((cast, c) => (light[c][i] = cast * to * (light[c][i] + 0.003)));
    }
}

/** What a camera makes of a picture, half as bright as it is, with shot noise, as JPEG. @param toPicture frame pixel → picture pixel */
async function shot(
  picture: EncodedImage,
  filling: EncodedImage,
  toPicture: Matrix3,
  { stops = 0, covers = false, size = [W, H], relit = false }: Omit<Far, 'map'>,
): Promise<EncodedImage> {
  const [width, height] = size;
  // four samples a pixel
  const fine = { x: 0, y: 0, width: 2 * width, height: 2 * height };
  const half: Matrix3 = [0.5, 0, -0.25, 0, 0.5, -0.25, 0, 0, 1];
  const planes = warpImage(picture, multiply(toPicture, half), fine, 'lanczos');
  const inside = coverage(picture, multiply(toPicture, half), fine, 0);
  const other = warpImage(filling, [0.55, 0, 40, 0, 0.55, 60, 0, 0, 1], fine, 'bilinear');
  const [bx, by] = [within(0, width), within(0, 0.8 * height)];
  const isCovered = (x: number, y: number): boolean =>
    covers && x > bx && x < bx + width && y > by && y < by + 1.2 * height;
  const out = emptyImage(width, height, 255);
  const gain = 0.5 * 2 ** stops;
  const lights = [0, 1, 2].map(() => new Float32Array(width * height));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        let light = 0;
        for (const [i, j] of [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ]) {
          const at = (2 * y + j) * fine.width + 2 * x + i;
          const from = inside[at] === 1 && !isCovered(2 * x + i, 2 * y + j) ? planes : other;
          light += srgbToLinear(from[c][at]) / 4;
        }
        lights[c][y * width + x] = light * gain;
      }
  if (relit) relight(lights, width, height);
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) {
      let light = lights[c][i];
      const normal = Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
      light += Math.sqrt(Math.max(0, light) / 12000 + 1e-7) * normal;
      out.data[3 * i + c] = 255 * encodeClipped(light) + 0.5;
    }
  const file = await platform.encodeJpeg(out.data as Uint8Array, width, height, 92, 'baseline');
  return (await decodeImage('shot.jpg', file, platform)).image;
}

/** Root mean square distance of two maps where the frame sees the reference, pixels. */
function distance(a: Matrix3, b: Matrix3, [width, height]: readonly [number, number]): number {
  let [sum, count] = [0, 0];
  for (let k = 0; k < 81; k++) {
    const [x, y] = [(((k % 9) + 0.5) / 9) * W, ((Math.floor(k / 9) + 0.5) / 9) * H];
    const [p, q] = [transform(a, x, y), transform(b, x, y)];
    if (p[0] < 0 || p[1] < 0 || p[0] >= width || p[1] >= height) continue;
    sum += (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2;
    count++;
  }
  return Math.sqrt(sum / Math.max(1, count));
}

const files = process.argv.slice(2);
const pictures = await Promise.all(
  files.map(async (file) => (await decodeImage(basename(file), readFileSync(file), platform)).image),
);
console.log('| pair | fitted | median, px | 90 % | worst | over 1 px | ms |');
console.log('| --- | ---: | ---: | ---: | ---: | ---: | ---: |');
for (const [name, way] of Object.entries(WAYS)) {
  const errors: number[] = [];
  const times: number[] = [];
  const refused: string[] = [];
  for (const [i, picture] of pictures.entries()) {
    const k = (0.62 * picture.width) / W;
    const toPicture: Matrix3 = [
      ...([k, 0, (picture.width - k * (W - 1)) / 2] as const),
      ...([0, k, (picture.height - k * (H - 1)) / 2, 0, 0, 1] as const),
    ];
    const filling = pictures[(i + 1) % pictures.length];
    const far = way();
    const reference = await shot(picture, filling, toPicture, {});
    const frame = await shot(picture, filling, multiply(toPicture, invert(far.map)), far);
    const start = performance.now();
    const options = { stops: far.stops ?? 0, motion: 'auto' } as const;
    const fit = registerPair(reference, frame, far.relit ? { ...options, light: 'differs' } : options);
    times.push(performance.now() - start);
    if (fit.fitted) errors.push(distance(far.map, fit.matrix, far.size ?? [W, H]));
    else refused.push(`${basename(files[i])}: ${fit.why}`);
  }
  errors.sort((a, b) => a - b);
  const at = (share: number): string =>
    errors[Math.min(errors.length - 1, Math.floor(share * errors.length))].toFixed(3);
  const wrong = errors.filter((e) => e > 1).length;
  const mean = times.reduce((a, b) => a + b, 0) / times.length;
  console.log(
    `| ${name} | ${errors.length} of ${pictures.length} | ${at(0.5)} | ${at(0.9)} | ${at(1)} | ${wrong} | ${mean.toFixed(0)} |`,
  );
  for (const line of refused) console.error(`${name}: ${line}`);
}
process.exit(0);
