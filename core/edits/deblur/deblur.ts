import { cropped } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { lightOf } from '../../graph/wanted';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { luminance } from '../luminance';
import { scaledPlanes } from '../scaledPlanes';

/** A blur taken back that is known: that of a lens, of a focus a little beside, of moving air. */
export interface DeblurSettings {
  /** sigma of the blur, full-size pixels */
  readonly radius: number;
  /** how often the picture is held against its blur; more is sharper and noisier */
  readonly steps: number;
  /** how far light may leave what lies about it: the stop against ringing, a share of it */
  readonly ringing: number;
}

/** sigma, level pixels, below which nothing can be seen of it */
const LEAST = 0.3;
/** of light, so that black is not divided by */
const FLOOR = 1e-4;

const marginOf = ({ radius, steps }: DeblurSettings, level: number): number => {
  const own = radius / 2 ** level;
  return own < LEAST ? 0 : Math.ceil(3 * own * Math.min(steps, 5)) + 2;
};

/**
 * Richardson–Lucy on luminance (Richardson, *Bayesian-Based Iterative Method of Image Restoration*, 1972; Lucy 1974) for a Gaussian blur. Light stays between the
 * darkest and the lightest that lies within the blur, and a little beyond.
 * @param sigma pixels
 * @returns luminance
 */
export function richardsonLucy(
  seen: Float32Array,
  width: number,
  height: number,
  sigma: number,
  { steps, ringing }: Pick<DeblurSettings, 'steps' | 'ringing'>,
): Float32Array {
  const blur = (plane: Float32Array): Float32Array => gaussianBlur(plane, width, height, sigma);
  const n = seen.length;
  const data = new Float32Array(n);
  for (let i = 0; i < n; i++) data[i] = Math.max(0, seen[i]) + FLOOR;
  const reach = Math.max(1, Math.round(1.5 * sigma));
  const least = leastAbout(data, width, height, reach, 1);
  const most = leastAbout(data, width, height, reach, -1);
  for (let i = 0; i < n; i++) {
    least[i] /= 1 + ringing;
    most[i] *= -(1 + ringing);
  }
  const light = data.slice();
  const ratio = new Float32Array(n);
  for (let k = 0; k < steps; k++) {
    const again = blur(light);
    for (let i = 0; i < n; i++) ratio[i] = data[i] / Math.max(FLOOR, again[i]);
    const back = blur(ratio);
    for (let i = 0; i < n; i++) {
      const next = light[i] * back[i];
      light[i] = next < least[i] ? least[i] : next > most[i] ? most[i] : next;
    }
  }
  for (let i = 0; i < n; i++) light[i] -= FLOOR;
  return light;
}

/** The least of a square about each pixel, rows first, then columns. @param sign −1 for the least of what is turned round: the most, negative */
function leastAbout(
  plane: Float32Array,
  width: number,
  height: number,
  reach: number,
  sign: 1 | -1,
): Float32Array {
  const across = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++)
    for (let x = 0, o = y * width; x < width; x++) {
      let v = sign * plane[o + x];
      const last = Math.min(width - 1, x + reach);
      for (let k = Math.max(0, x - reach); k <= last; k++) {
        const w = sign * plane[o + k];
        if (w < v) v = w;
      }
      across[o + x] = v;
    }
  for (let y = 0; y < height; y++) {
    const [first, last] = [Math.max(0, y - reach), Math.min(height - 1, y + reach)];
    out.set(across.subarray(first * width, (first + 1) * width), y * width);
    for (let k = first + 1; k <= last; k++)
      for (let x = 0; x < width; x++) {
        const w = across[k * width + x];
        if (w < out[y * width + x]) out[y * width + x] = w;
      }
  }
  return out;
}

const takeBlurBack = operator<DeblurSettings>({
  kind: 'takeBlurBack',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: (settings, at) => grownAt(at, marginOf(settings, at.level)),
  run: ([input], settings, { level, area }) => {
    const tile = lightOf(input, 'taking a blur back');
    const margin = marginOf(settings, level);
    if (margin === 0) return tile;
    const [width, height] = [area.width + 2 * margin, area.height + 2 * margin];
    const luma = luminance(tile.planes);
    const sharp = richardsonLucy(luma, width, height, settings.radius / 2 ** level, settings);
    // colours go along: what is dark keeps its own
    const factor = sharp.map((v, i) => (v + FLOOR) / (Math.max(0, luma[i]) + FLOOR));
    return cropped({ ...tile, planes: scaledPlanes(tile.planes, factor) }, width, height, margin);
  },
});

export const deblur: EditKind<DeblurSettings> = {
  kind: 'deblur',
  rank: 'detail',
  finest: true,
  plain: { radius: 1, steps: 0, ringing: 0.1 },
  schema: strict({ radius: between(0.3, 6), steps: between(0, 40).integer(), ringing: between(0, 1) }),
  changes: ({ steps }) => steps > 0,
  says: ({ radius, steps }) =>
    `a blur of ${Number(radius.toFixed(2))} px, ${steps} ${steps === 1 ? 'step' : 'steps'}`,
  operators: [takeBlurBack],
  compile: (graph, input, settings) => ({ changed: graph.add('takeBlurBack', settings, [input]) }),
};
