import { cropped } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { lightOf } from '../../graph/wanted';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';

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
  const data = seen.map((v) => Math.max(0, v) + FLOOR);
  const reach = Math.max(1, Math.round(1.5 * sigma));
  const [least, most] = [
    windowed(data, width, height, reach, Math.min),
    windowed(data, width, height, reach, Math.max),
  ];
  let light = data;
  for (let k = 0; k < steps; k++) {
    const again = blur(light);
    const back = blur(data.map((v, i) => v / Math.max(FLOOR, again[i])));
    light = light.map((v, i) => {
      const next = v * back[i];
      return Math.min(most[i] * (1 + ringing), Math.max(least[i] / (1 + ringing), next));
    });
  }
  return light.map((v) => v - FLOOR);
}

/** The least or the most of a square about each pixel, edges continued; rows first, then columns. */
function windowed(
  plane: Float32Array,
  width: number,
  height: number,
  reach: number,
  of: (a: number, b: number) => number,
): Float32Array {
  const across = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = plane[y * width + x];
      for (let k = Math.max(0, x - reach); k <= Math.min(width - 1, x + reach); k++)
        v = of(v, plane[y * width + k]);
      across[y * width + x] = v;
    }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = across[y * width + x];
      for (let k = Math.max(0, y - reach); k <= Math.min(height - 1, y + reach); k++)
        v = of(v, across[k * width + x]);
      out[y * width + x] = v;
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
    const [R, G, B] = tile.planes;
    const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
    const sharp = richardsonLucy(luma, width, height, settings.radius / 2 ** level, settings);
    // colours go along: what is dark keeps its own
    const planes = tile.planes.map((plane) =>
      plane.map((v, i) => v * ((sharp[i] + FLOOR) / (Math.max(0, luma[i]) + FLOOR))),
    );
    return cropped({ ...tile, planes }, width, height, margin);
  },
});

export const deblur: EditKind<DeblurSettings> = {
  kind: 'deblur',
  rank: 'detail',
  plain: { radius: 1, steps: 0, ringing: 0.1 },
  schema: strict({ radius: between(0.3, 6), steps: between(0, 40).integer(), ringing: between(0, 1) }),
  changes: ({ steps }) => steps > 0,
  says: ({ radius, steps }) =>
    `a blur of ${Number(radius.toFixed(2))} px, ${steps} ${steps === 1 ? 'step' : 'steps'}`,
  operators: [takeBlurBack],
  compile: (graph, input, settings) => ({ changed: graph.add('takeBlurBack', settings, [input]) }),
};
