import { coveringAt, resampled } from '../../graph/resample';
import { operator } from '../../graph/operator';
import { type At } from '../../graph/tile';
import { factOf, lightOf } from '../../graph/wanted';
import { guidedFilter } from '../../mask/guidedFilter';
import { boxMean } from '../../raster/boxMean';
import { between, strict } from '../../recipe/schemaParts';
import { coarsestLevel } from '../coarse/coarsestLevel';
import { type EditKind } from '../editKind';
import { luminance } from '../luminance';
import { scaledPlanes } from '../scaledPlanes';
import { signed } from '../signed';

/** Local contrast by the size of detail: −1 takes it out, 0 leaves it, 1 doubles it. */
export interface DetailSettings {
  readonly fine: number;
  readonly middle: number;
  readonly broad: number;
}

const NAMES = ['fine', 'middle', 'broad'] as const;
type BandName = (typeof NAMES)[number];

interface Band {
  /** halvings at which it is taken: what is broad needs few pixels */
  readonly level: number;
  /** radii of the filters between which it lies, pixels of that level; 0 for none */
  readonly from: number;
  readonly to: number;
  /** what of noise is left in it */
  readonly noise: number;
}

const BANDS: Readonly<Record<BandName, Band>> = {
  fine: { level: 0, from: 0, to: 2, noise: 1 },
  middle: { level: 1, from: 1, to: 4, noise: 0.25 },
  broad: { level: 2, from: 2, to: 8, noise: 0 },
};

/** The largest detail of a band, full-size pixels. */
export const sizeOf = (name: BandName): number => BANDS[name].to * 2 ** BANDS[name].level;

/** variance of encoded light below which it counts as detail: what is steeper is an edge, and stays as it is */
const EVEN = 0.05 ** 2;
/** variance about a pixel at which a quarter of its detail is taken for such */
const EDGE = 0.06 ** 2;
/** radius, level pixels, below which a band holds nothing */
const LEAST_RADIUS = 0.75;
/** most that a pixel is changed by, as a factor of its encoded light */
const MOST = 3;

interface BandAt extends Band {
  readonly at: At;
  readonly gain: number;
}

type Weighed = DetailSettings & { readonly longEdge: number };

/** A band where it is taken; undefined for one that is left alone, or that holds nothing at this level. */
function bandAt(name: BandName, settings: Weighed, at: At): BandAt | undefined {
  const [band, gain] = [BANDS[name], settings[name]];
  const level = Math.max(at.level, Math.min(band.level, coarsestLevel(settings.longEdge)));
  const by = 2 ** (band.level - level);
  if (gain === 0 || band.to * by < LEAST_RADIUS) return undefined;
  const [from, to] = [Math.round(band.from * by), Math.max(1, Math.round(band.to * by))];
  // two passes of means for each filter, and as far for how even it is about
  const place = coveringAt(at, level, 2 * from + 2 * to + (level === at.level ? 0 : 2));
  return { ...band, from, to, gain, at: place };
}

/** How even a plane is about each pixel, 0…1: near an edge a guided filter leans to its other side, and what it leaves is no detail. */
function evenness(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const mean = boxMean(plane, width, height, radius);
  const squares = new Float32Array(plane.length);
  for (let i = 0; i < squares.length; i++) squares[i] = plane[i] * plane[i];
  const square = boxMean(squares, width, height, radius);
  for (let i = 0; i < mean.length; i++) {
    const share = EDGE / (EDGE + Math.max(0, square[i] - mean[i] * mean[i]));
    mean[i] = share * share;
  }
  return mean;
}

/** What a band adds to the luma of its place. @param sigma deviation of the noise there */
function bandOf(luma: Float32Array, { from, to, gain, noise, at }: BandAt, sigma: number): Float32Array {
  const { width, height } = at.area;
  const inner = from > 0 ? guidedFilter(luma, luma, width, height, from, EVEN) : luma;
  const outer = guidedFilter(inner, inner, width, height, to, EVEN);
  const even = evenness(inner, width, height, 2 * to);
  const least = gain > 0 ? (3 * noise * sigma) ** 2 : 0;
  for (let i = 0; i < outer.length; i++) {
    const d = inner[i] - outer[i];
    const square = d * d;
    outer[i] = gain * d * even[i] * (least > 0 ? square / (square + least) : 1);
  }
  return outer;
}

/**
 * Parts encoded luminance into bands, each between two guided filters (He, Sun and Tang, *Guided Image Filtering*, 2010), and adds them with their gains. Edges that
 * are steeper than detail are in none of them, so that nothing runs along them. What may be noise is not made stronger.
 * Inputs: the picture, the picture for each band, and the deviation of its noise where that is known.
 */
const weighDetail = operator<Weighed>({
  kind: 'weighDetail',
  version: 1,
  gives: 'light',
  works: 'encoded',
  needs: (settings, at, input) => {
    const name = NAMES.at(input - 1);
    return input === 0 || !name || input > NAMES.length ? at : bandAt(name, settings, at)?.at;
  },
  run: ([input, ...more], settings, at) => {
    const tile = lightOf(input, 'local contrast');
    const noise = more[NAMES.length];
    const sigma = noise ? (factOf(noise, 'local contrast').value as number) : 0;
    const luma = luminance(tile.planes);
    const added = new Float32Array(luma.length);
    NAMES.forEach((name, k) => {
      const band = bandAt(name, settings, at);
      if (!band) return;
      const own = luminance(lightOf(more[k], 'local contrast').planes);
      const by = resampled(bandOf(own, band, sigma / 2 ** band.at.level), band.at, at);
      for (let i = 0; i < added.length; i++) added[i] += by[i];
    });
    for (let i = 0; i < added.length; i++) {
      const own = Math.max(luma[i], 1e-3);
      added[i] = Math.max(1 / MOST, Math.min(MOST, (own + added[i]) / own));
    }
    return { ...tile, planes: scaledPlanes(tile.planes, added) };
  },
});

export const detail: EditKind<DetailSettings> = {
  kind: 'detail',
  rank: 'detail',
  finest: true,
  plain: { fine: 0, middle: 0, broad: 0 },
  schema: strict({ fine: between(-1, 2), middle: between(-1, 2), broad: between(-1, 2) }),
  changes: (settings) => NAMES.some((name) => settings[name] !== 0),
  says: (settings) =>
    NAMES.filter((name) => settings[name] !== 0)
      .map((name) => `${name} ${signed(100 * settings[name], 0)} %`)
      .join(', '),
  operators: [weighDetail],
  compile: (graph, input, { fine, middle, broad }, { noise, longEdge = 1 }) => ({
    changed: graph.add('weighDetail', { fine, middle, broad, longEdge }, [
      ...[input, input, input, input],
      ...(noise ? [noise] : []),
    ]),
  }),
};
