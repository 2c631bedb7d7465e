import { boxMean } from '../../raster/boxMean';
import { coarseCut } from '../coarseCut';
import { colourOdds } from '../colourOdds';
import { type Dab, type Seeds } from '../dab';
import { labGrid, type LightGrid, reducedLight } from '../lightGrid';
import { type LabGrid } from '../linkCost';
import { deepDabs } from './deepDabs';
import { length3 } from '../../raster/length';

/** A sky that nobody pointed at. */
export interface FoundSky {
  /** dabs on it and on what is below, as a hand would have drawn them; lengths are fractions of the long edge, from its outer corner */
  readonly dabs: readonly Dab[];
  /** how sure it is one, 0…1 */
  readonly sure: number;
  /** part of the picture that it takes */
  readonly share: number;
}

/** cells that it is looked for on, whatever the picture's size */
const CELLS = 4e4;
const ROUNDS = 3;
const SMOOTHNESS = 8;
/** parts of the height at its upper and lower end that tell what is sky, and what is not */
const [TOP, BOTTOM] = [0.06, 0.06];
/** spread of lightness in a window that is smooth, and colours this near to each other are one, L*a*b* */
const [SMOOTH, NEAR] = [1.5, 20];
/** how much height counts for the sky, and what is very smooth or rough, logarithmic odds */
const HEIGHT = 3;
const [EVEN, EVEN_COUNTS, ROUGH, ROUGH_COUNTS] = [1, 0.7, 3, -1];
/** from one cell to the next, as means of five, a sky changes by less than this where it has no edge, L*a*b* */
const GRADUAL = 0.7;
/** textures up to so many times a sky's own are as even as it is, but none above the last, L* */
const [NOISE_SPREAD, NOISIEST] = [1.6, 2];
/** a sky takes at least and at most so much of a picture */
const [LEAST, MOST] = [0.02, 0.95];

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];

/**
 * Finds the sky without a dab: what is smooth at the upper border and goes on in its colours (the cut of Boykov & Jolly 2001, with height and texture beside colours).
 * @returns undefined where nothing at the top is like a sky
 */
export function findSky(light: LightGrid): FoundSky | undefined {
  const { width: fullWidth, height: fullHeight } = light;
  const step = Math.max(1, Math.round(Math.sqrt((fullWidth * fullHeight) / CELLS)));
  const lab = labGrid(reducedLight(light, step));
  const { width, height, data } = lab;
  const texture = textureOf(lab);
  const seeds = skySeeds(lab, texture);
  const top = seeds.filter((s) => s === 1).length / Math.max(1, Math.round(TOP * height) * width);
  if (top === 0) return undefined;
  const bias = Float32Array.from(texture, (t, i) => {
    const row = Math.floor(i / width);
    return HEIGHT * (0.5 - row / height) + (t < EVEN ? EVEN_COUNTS : t > ROUGH ? ROUGH_COUNTS : 0);
  });
  const options = { rounds: ROUNDS, smoothness: SMOOTHNESS, bias };
  const first = coarseCut(lab, seeds, options);
  // towards the horizon a sky has colours that it has nowhere at the top: it goes over into them without an edge
  const { label, models } = coarseCut(lab, gradedSeeds(lab, texture, first.label, seeds), options);
  const places = { sky: [] as number[], rest: [] as number[] };
  label.forEach((l, i) => (l ? places.sky : places.rest).push(i));
  const share = places.sky.length / label.length;
  if (share < LEAST || share > MOST) return undefined;
  const wrong = label.reduce(
    (sum, l, i) => sum + ((l === 1) === colourOdds(models, data, 3 * i) > 0 ? 0 : 1),
    0,
  );
  const facts: SkyFacts = {
    top,
    overlap: wrong / label.length,
    lighter: median(places.sky.map((i) => data[3 * i])) - median(places.rest.map((i) => data[3 * i])),
    texture: median(places.sky.map((i) => texture[i])),
    below: median(places.rest.map((i) => texture[i])),
  };
  const long = Math.max(fullWidth, fullHeight);
  const dabs = [...deepDabs(label, width, height, 1), ...deepDabs(label, width, height, 0)].map((d) => ({
    is: d.is,
    size: (d.size * step) / long,
    points: d.points.map(([x, y]) => [((x + 0.5) * step) / long, ((y + 0.5) * step) / long] as const),
  }));
  return { dabs, share, sure: sureOf(facts) };
}

/** What speaks for a sky. */
interface SkyFacts {
  /** part of the upper border that is smooth and of one colour */
  readonly top: number;
  /** part of the picture whose colours alone would lie on the other side */
  readonly overlap: number;
  /** than what is below it, L* */
  readonly lighter: number;
  /** spread of lightness in the sky, and below it */
  readonly texture: number;
  readonly below: number;
}

const rising = (v: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (v - from) / (to - from)));

/** How sure it is a sky, 0…1: it must part from what is below and be lighter; clouds may make it rough, or its upper border uneven, but hardly both. */
function sureOf({ top, overlap, lighter, texture, below }: SkyFacts): number {
  const even = rising(top, 0, 0.3);
  const smoother = rising(below / Math.max(0.3, texture), 0.2, 1.2);
  return rising(-overlap, -0.25, -0.05) * rising(lighter, -20, 15) * 0.5 * (even + smoother);
}

/** Seeds with all that the sky goes over into without an edge, cell by cell. */
function gradedSeeds(
  { width, height, data }: LabGrid,
  texture: Float32Array,
  label: Uint8Array,
  seeds: Seeds,
): Seeds {
  const plane = (c: number): Float32Array =>
    boxMean(
      texture.map((_, i) => data[3 * i + c]),
      width,
      height,
      2,
    );
  const [L, a, b] = [plane(0), plane(1), plane(2)];
  const own = [...texture].filter((_, i) => label[i]);
  // a noisy picture is nowhere even
  const even = Math.min(NOISIEST, Math.max(EVEN, NOISE_SPREAD * median(own)));
  const out = seeds.slice();
  const seen = Uint8Array.from(label);
  const todo: number[] = [];
  label.forEach((l, i) => {
    if (l && texture[i] < even) todo.push(i);
  });
  for (let i = todo.pop(); i !== undefined; i = todo.pop()) {
    const x = i % width;
    for (const j of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width]) {
      if (j < 0 || j >= width * height || seen[j] || seeds[j] === 0 || texture[j] >= even) continue;
      if (length3(L[i] - L[j], a[i] - a[j], b[i] - b[j]) >= GRADUAL) continue;
      seen[j] = 1;
      out[j] = 1;
      todo.push(j);
    }
  }
  return out;
}

/** Spread of lightness in a window of five cells. */
function textureOf({ width, height, data }: LabGrid): Float32Array {
  const L = Float32Array.from({ length: width * height }, (_, i) => data[3 * i]);
  const mean = boxMean(L, width, height, 2);
  const square = boxMean(
    L.map((v) => v * v),
    width,
    height,
    2,
  );
  return mean.map((m, i) => Math.sqrt(Math.max(0, square[i] - m * m)));
}

/** Smooth cells of the upper border near their middle colour are sky, the lower border is not. */
function skySeeds({ width, height, data }: LabGrid, texture: Float32Array): Seeds {
  const seeds = new Int8Array(width * height).fill(-1);
  const top = Array.from({ length: Math.round(TOP * height) * width }, (_, i) => i);
  const smooth = top.filter((i) => texture[i] < SMOOTH);
  const [L, a, b] = [0, 1, 2].map((c) => median(smooth.map((i) => data[3 * i + c])));
  for (const i of smooth)
    if (length3(data[3 * i] - L, data[3 * i + 1] - a, data[3 * i + 2] - b) < NEAR) seeds[i] = 1;
  seeds.fill(0, Math.round((1 - BOTTOM) * height) * width);
  return seeds;
}
