import { type EncodedImage } from '../raster/encodedImage';
import { colourOdds } from './colourOdds';
import { type CoarseCut, coarseCut } from './coarseCut';
import { type Dab, dabSeeds, type Seeds } from './dab';
import { enlargeMatte } from './enlargeMatte';
import { fineCut } from './fineCut';
import { foregroundColour } from './foregroundColour';
import { labGrid, type LightGrid, lightGrid, reducedLight } from './lightGrid';
import { closedFormMatte } from './mattingLaplacian';
import { sharedSampling } from './sharedSampling';
import { edgePixels, squaredDistance } from './squaredDistance';
import { trimap, UNKNOWN } from './trimap';

/** A thing freed of what it stood before. */
export interface Cutout {
  readonly width: number;
  readonly height: number;
  /** [pixel] 0…1 */
  readonly alpha: Float32Array;
  /** linear light of the thing alone, R G B interleaved, also where it is half covered */
  readonly colour: Float32Array;
  /** share of the picture that the matte had to decide */
  readonly undecided: number;
}

/** pixels of the grid that the first cut is made on, whatever the picture's size */
const COARSE_PIXELS = 1e5;
/** pixels up to which alpha is solved as large as the picture is */
const MATTE_PIXELS = 4.2e6;
/** px that the fine cut may leave the coarse one by, in its cells */
const BAND = 3;
/** px from the cut that the unknown may reach, in cells of the coarse cut */
const NEAR = 22;
const ROUNDS = 3;
const SMOOTHNESS = 3;
/** how much samples count against the picture where they explain it wholly, and what everything has of it */
const SAMPLE_WEIGHT = 3e-3;
const LEAST_WEIGHT = 1e-5;
/** how much the cut itself counts away from its edge, and from which distance on, px² */
const CUT_WEIGHT = 3e-3;
const CUT_REACH2 = 200;

/**
 * Cuts out what dabs point at: the least cut on a reduced picture, its edge at full size, a matte where the edge is soft, and colours without the old
 * background. The same dabs give the same bits.
 */
export function cutFromDabs(image: EncodedImage, dabs: readonly Dab[]): Cutout {
  const factor = Math.ceil(Math.sqrt((image.width * image.height) / MATTE_PIXELS));
  const light = lightGrid(image, factor);
  const scaled = factor === 1 ? dabs : dabs.map((d) => shrunk(d, factor));
  const small = cutLight(light, scaled);
  const { inside, outside } = foregroundColour(light, small.alpha);
  const { undecided } = small;
  const { width, height } = image;
  if (factor === 1) return { width, height, alpha: small.alpha, colour: inside, undecided };
  return { width, height, ...enlargeMatte(image, light, factor, small.alpha, inside, outside), undecided };
}

/** A dab on a grid of larger cells. */
function shrunk({ is, size, points }: Dab, factor: number): Dab {
  const cell = (v: number): number => (v + 0.5) / factor - 0.5;
  return { is, size: size / factor, points: points.map(([x, y]) => [cell(x), cell(y)]) };
}

/** Alpha of what dabs point at, as large as the light is. */
export function cutLight(
  light: LightGrid,
  dabs: readonly Dab[],
): { alpha: Float32Array; label: Uint8Array; undecided: number } {
  const { width, height } = light;
  const seeds = namedPlaces(dabs, width, height, 1);
  const coarse = firstCut(light, dabs);
  const { step } = coarse;
  const { label, odds, near } = fineLabel(light, coarse, seeds, step);
  const distance2 = squaredDistance(edgePixels(label, width, height), width, height);
  const map = trimap(label, distance2, odds, near, seeds, width, height);
  const alpha = matte(light, map, label, distance2);
  let open = 0;
  for (const code of map) if (code === UNKNOWN) open++;
  return { alpha, label, undecided: open / map.length };
}

/** Where dabs lie; as long as none says “not”, the border of the picture does. */
function namedPlaces(dabs: readonly Dab[], width: number, height: number, factor: number): Seeds {
  const seeds = dabSeeds(dabs, width, height, factor);
  if (dabs.some((d) => d.is === 'not')) return seeds;
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  return seeds.map((s, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    return s === -1 && (x === 0 || y === 0 || x === w - 1 || y === h - 1) ? 0 : s;
  });
}

/** The first cut, on cells of `step` × `step` pixels. */
export interface FirstCut extends CoarseCut {
  readonly step: number;
  /** cells */
  readonly width: number;
  readonly height: number;
}

/**
 * The cut on the reduced picture.
 * @param dabs in pixels of the light
 * @param cells about so many
 * @param rounds how often colours are learned
 */
export function firstCut(
  light: LightGrid,
  dabs: readonly Dab[],
  cells = COARSE_PIXELS,
  rounds = ROUNDS,
): FirstCut {
  const { width, height } = light;
  const step = Math.max(1, Math.round(Math.sqrt((width * height) / cells)));
  const reduced = reducedLight(light, step);
  const seeds = namedPlaces(dabs, width, height, step);
  const cut = coarseCut(labGrid(reduced), seeds, { rounds, smoothness: SMOOTHNESS });
  return { ...cut, step, width: reduced.width, height: reduced.height };
}

interface FineLabel {
  /** [pixel] 1 for “this” */
  readonly label: Uint8Array;
  readonly odds: Float32Array;
  /** [pixel] 1 where odds are known */
  readonly near: Uint8Array;
}

/** The edge of the coarse cut, moved to where it lies at full size. */
function fineLabel(
  light: LightGrid,
  { label, models, scale }: CoarseCut,
  seeds: Seeds,
  step: number,
): FineLabel {
  const { width, height } = light;
  const cells = Math.ceil(width / step);
  const wide = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / step) * cells;
    for (let x = 0; x < width; x++, i++) wide[i] = label[row + ((x / step) | 0)];
  }
  const distance2 = squaredDistance(edgePixels(wide, width, height), width, height);
  const within = (px: number): Uint8Array => {
    const out = new Uint8Array(distance2.length);
    for (let i = 0; i < out.length; i++) out[i] = distance2[i] <= px * px ? 1 : 0;
    return out;
  };
  const [near, band] = [within(NEAR * step), within(BAND * step)];
  const lab = labGrid(light, near);
  const odds = new Float32Array(near.length);
  for (let i = 0; i < odds.length; i++) if (near[i]) odds[i] = colourOdds(models, lab.data, 3 * i);
  return { label: fineCut(lab, wide, band, odds, seeds, scale), odds, near };
}

/** Alpha where the trimap leaves it open. */
function matte(light: LightGrid, map: Uint8Array, label: Uint8Array, distance2: Float32Array): Float32Array {
  const sampled = sharedSampling(light, map);
  const weight = new Float32Array(map.length);
  const alpha = sampled.alpha;
  for (let i = 0; i < map.length; i++) {
    const bySamples = SAMPLE_WEIGHT * sampled.confidence[i] + LEAST_WEIGHT;
    const byCut = CUT_WEIGHT * (1 - Math.exp(-distance2[i] / CUT_REACH2));
    weight[i] = bySamples + byCut;
    alpha[i] = (bySamples * alpha[i] + byCut * label[i]) / weight[i];
  }
  return closedFormMatte(light, map, { alpha, weight });
}
