import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { type Kernels, kernels } from '../../kernels/kernels';
import { type Rectangle } from '../../raster/raster';
import { filledRows } from '../filledRows';
import { type PartKind } from '../partKind';
import { smoothStep } from '../smoothRange';

/** From one place, where all of it counts, to another, where nothing does; fractions of the long edge. */
export interface GradientSettings {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  /** share of the way at which half is left; in the middle when absent */
  readonly half?: number;
}

const fadeAlong = operator<GradientSettings & { readonly longEdge: number }>({
  kind: 'fadeAlong',
  version: 3,
  gives: 'mask',
  run: (_, { longEdge, x0, y0, x1, y1, half = 0.5 }, at) => {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length2 = dx * dx + dy * dy;
    const scale = 2 ** at.level / longEdge;
    const [x, y] = [(at.area.x + 0.5) * scale - x0, (at.area.y + 0.5) * scale - y0];
    // a line without length is a border
    const [px, py] = length2 > 0 ? [dx / length2, dy / length2] : [1e9, 0];
    const steps = [1 - x * px - y * py, -scale * px, -scale * py] as const;
    const plane = half === 0.5 ? fadeOn(at.area, steps) : easedOn(at.area, steps, half);
    return { is: 'mask', plane };
  },
});

/**
 * A fade on a grid: smooth steps of what is so much at the first pixel, and so much more a column and a row further.
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function fadeOn(
  { width, height }: Pick<Rectangle, 'width' | 'height'>,
  [first, across, down]: readonly [number, number, number],
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  if (compiled)
    return filledRows(compiled, width, height, (out, stride) =>
      compiled.fadePlane(out, width, height, stride, first, across, down),
    );
  const plane = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) plane[o] = smoothStep(first + x * across + y * down);
  return plane;
}

/** The same fade with half of it left at another place: a bias of the way before the smooth step (Schlick 1994), made of the four operations alone. */
function easedOn(
  { width, height }: Pick<Rectangle, 'width' | 'height'>,
  [first, across, down]: readonly [number, number, number],
  half: number,
): Float32Array {
  const bend = (1 - 2 * half) / half;
  const plane = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const t = Math.min(1, Math.max(0, first + x * across + y * down));
      plane[o] = smoothStep(t / (bend * (1 - t) + 1));
    }
  return plane;
}

const coordinate = () => between(-50, 50);

export const gradient: PartKind<GradientSettings> = {
  kind: 'gradient',
  schema: strict({
    ...{ x0: coordinate(), y0: coordinate(), x1: coordinate(), y1: coordinate() },
    half: between(0.05, 0.95).optional(),
  }),
  plain: { x0: 0.5, y0: 0, x1: 0.5, y1: 0.4 },
  says: ({ x0, y0, x1, y1 }) => {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const from =
      Math.abs(dy) >= Math.abs(dx) ? (dy >= 0 ? 'the top' : 'below') : dx >= 0 ? 'the left' : 'the right';
    return `gradient from ${from}`;
  },
  operators: [fadeAlong],
  compile: (graph, settings, { longEdge }) => graph.add('fadeAlong', { ...settings, longEdge }),
};
