import { operator } from '../../graph/operator';
import { fieldOf } from '../../graph/wanted';
import { between, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';
import { smoothRange, type SoftRange } from '../smoothRange';

const distanceRange = operator<SoftRange>({
  kind: 'distanceRange',
  version: 1,
  gives: 'mask',
  run: ([input], range, { level, area }) => {
    const { width, height, cell, values } = fieldOf(input, 'a range of distance');
    const scale = 2 ** level / cell;
    const plane = new Float32Array(area.width * area.height);
    const at = (v: number, length: number): number =>
      Math.min(length - 1, Math.max(0, (v + 0.5) * scale - 0.5));
    for (let y = 0, i = 0; y < area.height; y++) {
      const v = at(y + area.y, height);
      const [top, f] = [Math.floor(v), v - Math.floor(v)];
      const bottom = Math.min(height - 1, top + 1);
      for (let x = 0; x < area.width; x++, i++) {
        const u = at(x + area.x, width);
        const [left, t] = [Math.floor(u), u - Math.floor(u)];
        const right = Math.min(width - 1, left + 1);
        const above = values[top * width + left] * (1 - t) + values[top * width + right] * t;
        const below = values[bottom * width + left] * (1 - t) + values[bottom * width + right] * t;
        plane[i] = smoothRange(above * (1 - f) + below * f, range);
      }
    }
    return { is: 'mask', plane };
  },
});

/** How far away things are, 0 the nearest … 1 the farthest, where that is known. */
export const distance: PartKind<SoftRange> = {
  kind: 'distance',
  schema: strict({ from: between(-1, 2), to: between(-1, 2), soft: between(0, 1) }),
  plain: { from: 0.5, to: 1, soft: 0.1 },
  says: ({ from, to }) => `distance ${Math.round(100 * from)} to ${Math.round(100 * to)} %`,
  operators: [distanceRange],
  compile: (graph, range, { distance: map }) => (map ? graph.add('distanceRange', range, [map]) : undefined),
};
