import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { decodeImage } from '@/core/codecs/decodeImage';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { applyMatch } from '@/core/match/applyMatch';
import { type MatchMark } from '@/core/match/matchMark';
import { samplesOf } from '@/core/match/samples';
import { solveMatch } from '@/core/match/solveMatch';
import { mendByMarks, solveMarks } from '@/core/match/solveMarks';
import { solveSame } from '@/core/match/solveMap';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { lightOfCodes } from '@/core/raster/lightOfCodes';
import { randomSource } from '@/core/raster/random';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { warpImage } from '@/core/raster/warp';
import { nodePlatform } from '@/engine/nodePlatform';
import { columns } from '@/tests/knownGrade';
import { byHistogram, byLinearTransport, byMoments } from './matchPeers';

// node dist/benchmarkMatches.mjs PICTURES…: photographs changed in nine known kinds of ways, 8 bits and JPEG, and matched back: the same content, its
// other half, and the most alike of the other pictures; mean CIEDE2000 to the changed picture itself, against the plain methods of the field.

const LONG = 480;
const platform = nodePlatform();
const random = randomSource(7);
const within = (low: number, high: number): number => low + (high - low) * random();
const sign = (): number => (random() < 0.5 ? -1 : 1);
const clip = (v: number): number => Math.min(1, Math.max(0, v));

type Colour = [number, number, number];
/** Codes 0…1 before and after. */
type Grade = (code: Colour) => Colour;
const each = (code: readonly number[], f: (v: number, c: number) => number): Colour => [
  clip(f(code[0], 0)),
  clip(f(code[1], 1)),
  clip(f(code[2], 2)),
];
const luma = ([r, g, b]: readonly number[]): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const onLight =
  (f: (light: readonly number[], c: number) => number): Grade =>
  (code) => {
    const light = code.map(srgbToLinear);
    return each(code, (_, c) => linearToSrgb(Math.max(0, f(light, c))));
  };

function mixed(): Grade {
  const rows = [0, 1, 2].map((c) => {
    const [p, q] = [within(-0.15, 0.15), within(-0.15, 0.15)];
    return [0, 1, 2].map((k) => (k === c ? 1 - p - q : k === (c + 1) % 3 ? p : q));
  });
  return onLight((light, c) => rows[c].reduce((sum, w, k) => sum + w * light[k], 0));
}

/** What a person may do to a picture; the kinds of the study, each drawn anew. */
const GRADES: Readonly<Record<string, () => Grade>> = {
  'S-curve': () => {
    const k = sign() * within(0.5, 1.3);
    return (code) => each(code, (v) => v + k * v * (1 - v) * (2 * v - 1));
  },
  faded: () => {
    const [low, high] = [within(0.03, 0.1), within(0.85, 0.95)];
    return (code) => each(code, (v) => low + (high - low) * v);
  },
  exposure: () => {
    const gain = 2 ** (sign() * within(0.4, 1));
    return onLight((light, c) => gain * light[c]);
  },
  mixed,
  'mixed, curves': () => {
    const first = mixed();
    const curves = [0, 1, 2].map(() => [within(-0.03, 0.05), within(0.88, 1.08), within(0.85, 1.18)]);
    return (code) => each(first(code), (v, c) => curves[c][0] + curves[c][1] * v ** curves[c][2]);
  },
  balance: () => {
    const k = sign() * within(0.08, 0.25);
    return onLight((light, c) => Math.exp(k * [1, 0, -1.1][c]) * light[c]);
  },
  'split tint': () => {
    const [high, low, way] = [within(0.02, 0.06), within(0.02, 0.06), random() < 0.25 ? -1 : 1];
    return (code) => {
      const y = luma(code);
      const [h, l] = [way * high * y * y, way * low * (1 - y) ** 2 * Math.min(1, 6 * y)];
      return each([code[0] + h - l, code[1] + 0.2 * h + 0.1 * l, code[2] - h + l], (v) => v);
    };
  },
  chroma: () => {
    const k = random() < 0.5 ? within(0.5, 0.8) : within(1.2, 1.6);
    return (code) => each(code, (v) => luma(code) + k * (v - luma(code)));
  },
  all: () => {
    const steps = ['S-curve', 'mixed, curves', 'balance', 'chroma'].map((kind) => GRADES[kind]());
    return (code) => {
      const far = steps.reduce((now, step) => step(now), code);
      return each(code, (v, c) => v + 0.7 * (far[c] - v));
    };
  },
};

function graded(image: EncodedImage, grade: Grade): EncodedImage {
  const out = emptyImage(image.width, image.height, 255);
  for (let i = 0; i < image.data.length; i += 3) {
    const code: Colour = [image.data[i] / 255, image.data[i + 1] / 255, image.data[i + 2] / 255];
    grade(code).forEach((v, c) => (out.data[i + c] = Math.round(255 * v)));
  }
  return out;
}

/** Through a JPEG of quality 92. */
async function coded(image: EncodedImage): Promise<EncodedImage> {
  const bytes = await platform.encodeJpeg(
    image.data as Uint8Array,
    image.width,
    image.height,
    92,
    'baseline',
  );
  return (await decodeImage('coded.jpg', bytes, platform)).image;
}

function difference(a: EncodedImage, b: EncodedImage): number {
  const [p, q] = [lightOfCodes(a), lightOfCodes(b)];
  const lab = (image: EncodedImage, light: (code: number) => number, i: number) =>
    labOf(light(image.data[i]), light(image.data[i + 1]), light(image.data[i + 2]));
  let [sum, n] = [0, 0];
  for (let i = 0; i + 2 < a.data.length; i += 39, n++) sum += deltaE2000(lab(a, p, i), lab(b, q, i));
  return sum / n;
}

async function small(file: string): Promise<EncodedImage> {
  const { image } = await decodeImage(basename(file), readFileSync(file), platform);
  const scale = Math.max(image.width, image.height) / LONG;
  const [width, height] = [Math.round(image.width / scale), Math.round(image.height / scale)];
  const planes = warpImage(
    image,
    [scale, 0, (scale - 1) / 2, 0, scale, (scale - 1) / 2, 0, 0, 1],
    { x: 0, y: 0, width, height },
    'bilinear',
  );
  const out = emptyImage(width, height, 255);
  for (let i = 0; i < width * height; i++)
    planes.forEach((plane, c) => (out.data[3 * i + c] = Math.round(255 * clip(plane[i]))));
  return out;
}

/** How much of their colours two pictures share, in cells of 4 × 4 × 4 codes. */
function alike(a: EncodedImage, b: EncodedImage): number {
  const cells = ({ data }: EncodedImage): Float64Array => {
    const out = new Float64Array(512);
    for (let i = 0; i < data.length; i += 3)
      out[((data[i] >> 5) << 6) | ((data[i + 1] >> 5) << 3) | (data[i + 2] >> 5)] += 3 / data.length;
    return out;
  };
  const [p, q] = [cells(a), cells(b)];
  return p.reduce((sum, v, i) => sum + Math.min(v, q[i]), 0);
}

/** A way to make one picture look like another. */
type Method = (target: EncodedImage, reference: EncodedImage) => EncodedImage;
const METHODS: Readonly<Record<string, Method>> = {
  here: (target, reference) => applyMatch(target, solveMatch(target, reference).map, 255),
  moments: byMoments,
  histograms: byHistogram,
  'linear transport': byLinearTransport,
};

/** Places of a picture whose colours lie farthest apart, of which someone says what they should look like: means of quiet patches. */
function marked(target: EncodedImage, truth: EncodedImage, count: number): MatchMark[] {
  const PATCH = 5;
  const patches: { readonly from: Colour; readonly to: Colour; readonly spread: number }[] = [];
  for (let y = 0; y + PATCH < target.height; y += 2 * PATCH)
    for (let x = 0; x + PATCH < target.width; x += 2 * PATCH) {
      const mean = (image: EncodedImage, c: number): number[] =>
        Array.from(
          { length: PATCH * PATCH },
          (_, k) => image.data[3 * ((y + Math.floor(k / PATCH)) * image.width + x + (k % PATCH)) + c] / 255,
        );
      const of = (image: EncodedImage): Colour =>
        each([0, 1, 2], (_, c) => mean(image, c).reduce((a, b) => a + b, 0) / PATCH ** 2);
      const green = mean(target, 1);
      patches.push({ from: of(target), to: of(truth), spread: Math.max(...green) - Math.min(...green) });
    }
  const quiet = patches.sort((a, b) => a.spread - b.spread).slice(0, Math.ceil(patches.length / 2));
  const chosen = [quiet[0]];
  const apart = (p: Colour, q: Colour): number => Math.hypot(...p.map((v, c) => v - q[c]));
  while (chosen.length < count)
    chosen.push(
      quiet.reduce((best, patch) => {
        const near = (p: typeof patch): number => Math.min(...chosen.map((c) => apart(c.from, p.from)));
        return near(patch) > near(best) ? patch : best;
      }),
    );
  return chosen.map(({ from, to }) => ({ says: 'same', from, to }));
}

const MARKS = [3, 5, 8];
const pictures = await Promise.all(process.argv.slice(2).map(small));
const found = new Map<string, number[]>();
const note = (name: string, value: number): void => void found.set(name, [...(found.get(name) ?? []), value]);
for (const [k, picture] of pictures.entries()) {
  const others = pictures.filter((p) => p !== picture);
  const next = others.reduce((best, p) => (alike(picture, p) > alike(picture, best) ? p : best), others[0]);
  const half = picture.width >> 1;
  const halves = [columns(picture, 0, half), columns(picture, half, 2 * half)];
  for (const kind of Object.keys(GRADES)) {
    const grade = GRADES[kind]();
    const [own, other] = random() < 0.5 ? halves : [halves[1], halves[0]];
    const cases: [string, EncodedImage, EncodedImage][] = [
      ['one half to the other', own, other],
      ['the most alike of the others', picture, next],
    ];
    const wanted = graded(picture, grade);
    const reference = await coded(wanted);
    note('same content, floor', difference(reference, wanted));
    note('same content, nothing', difference(picture, wanted));
    for (const [name, method] of Object.entries(METHODS))
      note(`same content, ${name}`, difference(method(picture, reference), wanted));
    const map = solveSame(samplesOf(picture, 24_000), samplesOf(reference, 23_000));
    note('same content, here, not laid over', difference(applyMatch(picture, map, 255), wanted));
    for (const [what, target, like] of cases) {
      const [truth, shown] = [graded(target, grade), await coded(graded(like, grade))];
      const before = difference(target, truth);
      note(`${what}, nothing`, before);
      const tried = (name: string, result: EncodedImage): void => {
        const after = difference(result, truth);
        note(`${what}, ${name}`, after);
        note(`${what}, ${name} worse`, after > before ? 1 : 0);
        note(`${what}, ${name} worse by half`, after > before + 0.5 ? 1 : 0);
      };
      for (const [name, method] of Object.entries(METHODS)) tried(name, method(target, shown));
      const solved = solveMatch(target, shown);
      for (const count of MARKS) {
        const marks = marked(target, truth, count);
        tried(`${count} marks`, applyMatch(target, solveMarks(marks), 255));
        const mended = mendByMarks(solved.map, samplesOf(target, 24_000), marks);
        tried(`here, ${count} marks`, applyMatch(target, mended, 255));
      }
    }
  }
  process.stderr.write(`${k + 1}/${pictures.length}\n`);
}
console.log(`${pictures.length} pictures × ${Object.keys(GRADES).length} changes: mean, largest`);
for (const [name, values] of found) {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  console.log(name.padEnd(52), mean.toFixed(3), Math.max(...values).toFixed(2));
}
