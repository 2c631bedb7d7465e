import { cropped } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { type LightTile } from '../../graph/tile';
import { lightOf } from '../../graph/wanted';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';

/** A blur in linear light, as a lens makes it. */
export interface SoftenSettings {
  /** sigma, full-size pixels */
  readonly radius: number;
}

/** sigma, level pixels, below which nothing is seen of it */
const LEAST = 0.2;

const marginOf = ({ radius }: SoftenSettings, level: number): number => {
  const own = radius / 2 ** level;
  return own >= LEAST ? Math.ceil(3 * own) + 1 : 0;
};

const softenLight = operator<SoftenSettings>({
  kind: 'softenLight',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: (settings, at) => grownAt(at, marginOf(settings, at.level)),
  run: ([input], settings, { level, area }) => {
    const tile = lightOf(input, 'a blur');
    const margin = marginOf(settings, level);
    if (margin === 0) return tile;
    const [width, height] = [area.width + 2 * margin, area.height + 2 * margin];
    const blur = (plane: Float32Array): Float32Array =>
      gaussianBlur(plane, width, height, settings.radius / 2 ** level);
    return cropped(blurred(tile, blur), width, height, margin);
  },
});

/** A tile blurred; of a cut-out colours weigh by their opacity, so that what is clear does not bleed in. */
function blurred(tile: LightTile, blur: (plane: Float32Array) => Float32Array): LightTile {
  const { planes, alpha } = tile;
  if (!alpha) return { ...tile, planes: planes.map(blur) };
  const soft = blur(alpha);
  return {
    ...tile,
    alpha: soft,
    planes: planes.map((plane) =>
      blur(plane.map((v, i) => v * alpha[i])).map((v, i) => (soft[i] > 1e-4 ? v / soft[i] : plane[i])),
    ),
  };
}

export const soften: EditKind<SoftenSettings> = {
  kind: 'soften',
  rank: 'detail',
  finest: true,
  plain: { radius: 0 },
  schema: strict({ radius: between(0, 100) }),
  changes: ({ radius }) => radius > 0,
  says: ({ radius }) => `by ${Number(radius.toFixed(2))} px`,
  operators: [softenLight],
  compile: (graph, input, settings) => ({ changed: graph.add('softenLight', settings, [input]) }),
};
