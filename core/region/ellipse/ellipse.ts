import { operator } from '../../graph/operator';
import { between, share, strict } from '../../recipe/schemaParts';
import { type Kernels, kernels } from '../../kernels/kernels';
import { type Rectangle } from '../../raster/raster';
import { filledRows } from '../filledRows';
import { type PartKind } from '../partKind';
import { smoothStep } from '../smoothRange';
import { length2 } from '../../raster/length';

/** An ellipse; lengths are fractions of the long edge. */
export interface EllipseSettings {
  /** its middle */
  readonly x: number;
  readonly y: number;
  /** its half axes */
  readonly across: number;
  readonly down: number;
  /** degrees, clockwise on screen */
  readonly turn: number;
  /** share of its radius over which it fades out, inwards */
  readonly soft: number;
}

const fillEllipse = operator<EllipseSettings & { readonly longEdge: number }>({
  kind: 'fillEllipse',
  version: 2,
  gives: 'mask',
  run: (_, { longEdge, x: cx, y: cy, across, down, turn, soft }, at) => {
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    // an edge is one pixel wide at least, so that it is not jagged
    const pixel = 2 ** at.level / longEdge / Math.max(1e-6, Math.min(across, down));
    const fade = Math.max(pixel, soft);
    const outer = 1 + (soft < pixel ? pixel / 2 : 0);
    const scale = 2 ** at.level / longEdge;
    const [dx, dy] = [(at.area.x + 0.5) * scale - cx, (at.area.y + 0.5) * scale - cy];
    const plane = ellipseOn(at.area, {
      u: [(c * dx + s * dy) / across, (c * scale) / across, (s * scale) / across],
      v: [(c * dy - s * dx) / down, (-s * scale) / down, (c * scale) / down],
      outer,
      fade,
    });
    return { is: 'mask', plane };
  },
});

/** The unit circle's coordinates on a grid: of its first pixel, and how much more a column and a row further. */
export interface CircleGrid {
  readonly u: readonly [number, number, number];
  readonly v: readonly [number, number, number];
  /** radius at which nothing is left, and the width over which it fades out inwards */
  readonly outer: number;
  readonly fade: number;
}

/** @param compiled null for the plain form, which the compiled one is held against */
export function ellipseOn(
  { width, height }: Pick<Rectangle, 'width' | 'height'>,
  { u, v, outer, fade }: CircleGrid,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  if (compiled)
    return filledRows(compiled, width, height, (out, stride) =>
      compiled.ellipsePlane(out, width, height, stride, ...u, ...v, outer, 1 / fade),
    );
  const plane = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const radius = length2(u[0] + x * u[1] + y * u[2], v[0] + x * v[1] + y * v[2]);
      plane[o] = smoothStep((outer - radius) / fade);
    }
  return plane;
}

export const ellipse: PartKind<EllipseSettings> = {
  kind: 'ellipse',
  schema: strict({
    x: between(-50, 50),
    y: between(-50, 50),
    across: between(1e-4, 50),
    down: between(1e-4, 50),
    turn: between(-360, 360),
    soft: share(),
  }),
  plain: { x: 0.5, y: 0.33, across: 0.2, down: 0.15, turn: 0, soft: 0.3 },
  says: () => 'ellipse',
  operators: [fillEllipse],
  compile: (graph, settings, { longEdge }) => graph.add('fillEllipse', { ...settings, longEdge }),
};
