import { type Sharpen, sharpenPlanes } from '../../finish/sharpen';
import { cropped } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { lightOf } from '../../graph/wanted';
import { between, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';

/** radius of sharpening, level pixels, below which it does nothing that can be seen */
const LEAST_RADIUS = 0.35;

/** pixels around a place that sharpening looks at; 0 where it does nothing */
function marginOf({ radius }: Sharpen, level: number): number {
  const own = radius / 2 ** level;
  return own >= LEAST_RADIUS ? Math.ceil(8 * own) + 2 : 0;
}

const sharpenLight = operator<Sharpen>({
  kind: 'sharpenLight',
  version: 1,
  gives: 'light',
  works: 'encoded',
  needs: (settings, at) => grownAt(at, marginOf(settings, at.level)),
  run: ([input], settings, { level, area }) => {
    const tile = lightOf(input, 'sharpening');
    const margin = marginOf(settings, level);
    if (margin === 0) return tile;
    const [width, height] = [area.width + 2 * margin, area.height + 2 * margin];
    const planes = tile.planes.map((p) => p.slice());
    sharpenPlanes(planes, width, height, { ...settings, radius: settings.radius / 2 ** level });
    return cropped({ ...tile, planes }, width, height, margin);
  },
});

export const sharpen: EditKind<Sharpen> = {
  kind: 'sharpen',
  rank: 'finish',
  finest: true,
  plain: { radius: 1.7, amount: 0, edge: 0.25 },
  schema: strict({ radius: between(0.3, 20), amount: between(0, 5), edge: between(0, 4) }),
  changes: ({ amount }) => amount > 0,
  says: ({ amount, radius }) => `${Math.round(100 * amount)} % at ${Number(radius.toFixed(1))} px`,
  operators: [sharpenLight],
  compile: (graph, input, settings) => ({ changed: graph.add('sharpenLight', settings, [input]) }),
};
