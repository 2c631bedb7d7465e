import { cropped } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { factOf, lightOf } from '../../graph/wanted';
import { guidedFilter } from '../../mask/guidedFilter';
import { boxMean } from '../../raster/boxMean';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { signed } from '../signed';

/** Local contrast by the size of detail: −1 takes it out, 0 leaves it, 1 doubles it. */
export interface DetailSettings {
  readonly fine: number;
  readonly middle: number;
  readonly broad: number;
}

/** radius of the filter under each band, full-size pixels */
export const BANDS = { fine: 2, middle: 8, broad: 32 } as const;
const NAMES = ['fine', 'middle', 'broad'] as const;
/** what of noise is left in each band */
const NOISE = { fine: 1, middle: 0.25, broad: 0 } as const;
/** variance of encoded light below which it counts as detail: what is steeper is an edge, and stays as it is */
const EVEN = 0.05 ** 2;
/** variance about a pixel at which half the root of its detail is taken for such */
const EDGE = 0.06 ** 2;
/** radius, level pixels, below which a band holds nothing */
const LEAST_RADIUS = 0.75;
/** most that a pixel is changed by, as a factor of its encoded light */
const MOST = 3;

interface Band {
  readonly gain: number;
  readonly radius: number;
  readonly noise: number;
}

/** The bands that are there at a level, from fine to broad. */
function bandsAt(settings: DetailSettings, level: number): Band[] {
  return NAMES.flatMap((name) => {
    const radius = BANDS[name] / 2 ** level;
    return radius < LEAST_RADIUS
      ? []
      : [{ gain: settings[name], radius: Math.max(1, Math.round(radius)), noise: NOISE[name] }];
  });
}

/** pixels around a place that are looked at; a broader band that is left alone needs none */
function marginOf(settings: DetailSettings, level: number): number {
  const bands = bandsAt(settings, level);
  const last = bands.findLastIndex((b) => b.gain !== 0);
  return bands.slice(0, last + 1).reduce((sum, { radius }) => sum + 2 * radius, 0);
}

/** How even a plane is about each pixel, 0…1: near an edge a guided filter leans to its other side, and what it leaves is no detail. */
function evenness(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const mean = boxMean(plane, width, height, radius);
  const square = boxMean(
    plane.map((v) => v * v),
    width,
    height,
    radius,
  );
  return mean.map((m, i) => (EDGE / (EDGE + Math.max(0, square[i] - m * m))) ** 2);
}

/**
 * Parts encoded luminance by guided filters (He, Sun and Tang, *Guided Image Filtering*, 2010), each over what the one before left, and lays it together again with the
 * gains of the bands. Edges that are steeper than detail are in none of them, so that nothing runs along them. What may be noise is not made stronger.
 * Inputs: the picture, and the deviation of its noise where that is known.
 */
const weighDetail = operator<DetailSettings>({
  kind: 'weighDetail',
  version: 1,
  gives: 'light',
  works: 'encoded',
  needs: (settings, at, input) => (input === 0 ? grownAt(at, marginOf(settings, at.level)) : at),
  run: ([input, noise], settings, { level, area }) => {
    const tile = lightOf(input, 'local contrast');
    const margin = marginOf(settings, level);
    if (margin === 0) return tile;
    const sigma = noise ? (factOf(noise, 'local contrast').value as number) / 2 ** level : 0;
    const [width, height] = [area.width + 2 * margin, area.height + 2 * margin];
    const [R, G, B] = tile.planes;
    const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
    const bands = bandsAt(settings, level);
    const added = new Float32Array(luma.length);
    let base: Float32Array = luma;
    for (const { gain, radius, noise: share } of bands.slice(
      0,
      bands.findLastIndex((b) => b.gain !== 0) + 1,
    )) {
      const next = guidedFilter(base, base, width, height, radius, EVEN);
      const least = gain > 0 ? (3 * share * sigma) ** 2 : 0;
      const even = evenness(base, width, height, 2 * radius);
      for (let i = 0; i < added.length; i++) {
        const d = base[i] - next[i];
        const square = d * d;
        added[i] += gain * d * even[i] * (least > 0 ? square / (square + least) : 1);
      }
      base = next;
    }
    const factor = added.map((by, i) => {
      const own = Math.max(luma[i], 1e-3);
      return Math.max(1 / MOST, Math.min(MOST, (own + by) / own));
    });
    const planes = tile.planes.map((plane) => plane.map((v, i) => v * factor[i]));
    return cropped({ ...tile, planes }, width, height, margin);
  },
});

export const detail: EditKind<DetailSettings> = {
  kind: 'detail',
  rank: 'detail',
  plain: { fine: 0, middle: 0, broad: 0 },
  schema: strict({ fine: between(-1, 2), middle: between(-1, 2), broad: between(-1, 2) }),
  changes: (settings) => NAMES.some((name) => settings[name] !== 0),
  says: (settings) =>
    NAMES.filter((name) => settings[name] !== 0)
      .map((name) => `${name} ${signed(100 * settings[name], 0)} %`)
      .join(', '),
  operators: [weighDetail],
  compile: (graph, input, { fine, middle, broad }, { noise }) => ({
    changed: graph.add('weighDetail', { fine, middle, broad }, noise ? [input, noise] : [input]),
  }),
};
