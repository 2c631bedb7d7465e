import { operator } from '../../graph/operator';
import { between, share, strict } from '../../recipe/schemaParts';
import { gridRows } from '../gridRows';
import { type PartKind } from '../partKind';
import { smoothStep } from '../smoothRange';

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
  version: 1,
  gives: 'mask',
  run: (_, { longEdge, x: cx, y: cy, across, down, turn, soft }, at) => {
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    // an edge is one pixel wide at least, so that it is not jagged
    const pixel = 2 ** at.level / longEdge / Math.max(1e-6, Math.min(across, down));
    const fade = Math.max(pixel, soft);
    const outer = 1 + (soft < pixel ? pixel / 2 : 0);
    const plane = gridRows(at, longEdge, (row, { first, scale, y }) => {
      const dy = y - cy;
      for (let i = 0; i < row.length; i++) {
        const dx = (first + i + 0.5) * scale - cx;
        const u = (c * dx + s * dy) / across;
        const v = (c * dy - s * dx) / down;
        row[i] = smoothStep((outer - Math.sqrt(u * u + v * v)) / fade);
      }
    });
    return { is: 'mask', plane };
  },
});

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
