import { operator } from '../../graph/operator';
import { type At } from '../../graph/tile';
import { lightOf } from '../../graph/wanted';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { scaledPlanes } from '../scaledPlanes';
import { signed } from '../signed';

/** Light that falls off round a subject. Lengths are fractions of the picture's long edge. */
export interface VignetteSettings {
  /** middle of the ellipse in which nothing gets darker */
  readonly x: number;
  readonly y: number;
  /** its half axes */
  readonly across: number;
  readonly down: number;
  /** stops that are lost at twice its size */
  readonly stops: number;
  /** stops that its middle gains */
  readonly inner: number;
}

/**
 * By how much the light at a place of the ellipse changes. Outside it falls as the fourth power of a cosine, as that of a lens does
 * (the cosine-fourth law; Reiss 1945), and inside it rises evenly to the middle.
 * @param radius 1 on the ellipse
 */
export function vignetteGain(
  radius: number,
  { stops, inner }: Pick<VignetteSettings, 'stops' | 'inner'>,
): number {
  if (radius <= 1) return 2 ** (inner * (1 - radius * radius) ** 2);
  const beyond = radius - 1;
  // cos⁴ of an angle whose tangent grows with the distance
  const slope = 2 ** (stops / 2) - 1;
  return 1 / (1 + slope * beyond * beyond) ** 2;
}

/** entries for a radius of 1, and the radius where the table ends */
const STEPS = 512;
const LAST = 12;

function gainTable(settings: VignetteSettings): Float32Array {
  return Float32Array.from({ length: LAST * STEPS + 2 }, (_, k) => vignetteGain(k / STEPS, settings));
}

const shadeAround = operator<VignetteSettings & { readonly longEdge: number }>({
  kind: 'shadeAround',
  version: 1,
  gives: 'light',
  works: 'linear',
  run: ([input], settings, at) => {
    const tile = lightOf(input, 'a vignette');
    const gains = gainOn(settings, at);
    return { ...tile, planes: scaledPlanes(tile.planes, gains) };
  },
});

function gainOn(settings: VignetteSettings & { readonly longEdge: number }, at: At): Float32Array {
  const { x: cx, y: cy, across, down, longEdge } = settings;
  const { width, height } = at.area;
  const table = gainTable(settings);
  const scale = 2 ** at.level / longEdge;
  const gains = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++) {
    const v = ((at.area.y + y + 0.5) * scale - cy) / down;
    for (let x = 0; x < width; x++, o++) {
      const u = ((at.area.x + x + 0.5) * scale - cx) / across;
      const place = Math.min(LAST, Math.sqrt(u * u + v * v)) * STEPS;
      const k = place | 0;
      gains[o] = table[k] + (place - k) * (table[k + 1] - table[k]);
    }
  }
  return gains;
}

export const vignette: EditKind<VignetteSettings> = {
  kind: 'vignette',
  // the last rank before the picture is set straight: the ellipse stays with its subject
  rank: 'colour',
  plain: { x: 0.5, y: 0.33, across: 0.4, down: 0.27, stops: 0, inner: 0 },
  schema: strict({
    ...{ x: between(-5, 5), y: between(-5, 5) },
    ...{ across: between(0.01, 10), down: between(0.01, 10) },
    ...{ stops: between(0, 6), inner: between(0, 3) },
  }),
  changes: ({ stops, inner }) => stops > 0 || inner > 0,
  says: ({ stops, inner }) =>
    [
      ...(stops > 0 ? [`${signed(-stops, 1)} EV about it`] : []),
      ...(inner > 0 ? [`${signed(inner, 1)} EV in its middle`] : []),
    ].join(', '),
  operators: [shadeAround],
  compile: (graph, input, settings, { longEdge = 1 }) => ({
    changed: graph.add('shadeAround', { ...settings, longEdge }, [input]),
  }),
};
