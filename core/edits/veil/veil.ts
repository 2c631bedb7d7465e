import { operator } from '../../graph/operator';
import { lightOf } from '../../graph/wanted';
import { between, share, strict } from '../../recipe/schemaParts';
import { smoothStep } from '../../region/smoothRange';
import { coarseBlur, coarseBlurAt } from '../coarse/coarseBlur';
import { type EditKind } from '../editKind';
import { luminance } from '../luminance';

/** A soft look: a blurred copy lies over the picture, and darks stay as dark as they are. */
export interface VeilSettings {
  /** how much of the blurred copy is seen, 0…1 */
  readonly amount: number;
  /** sigma of its blur, full-size pixels */
  readonly radius: number;
}

/** stops under middle grey up to which nothing gets lighter, and from which on all of it may */
const DARK = { none: -5, all: -2.5 } as const;

/** luminance from which on all of a pixel may */
const ALL = 0.18 * 2 ** DARK.all;

/** How far a pixel may get lighter, 0…1. @param y its luminance */
export const mayLighten = (y: number): number =>
  y > 0 ? smoothStep((Math.log2(y / 0.18) - DARK.none) / (DARK.all - DARK.none)) : 0;

const layVeil = operator<VeilSettings & { readonly longEdge: number }>({
  kind: 'layVeil',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: ({ radius, longEdge }, at, input) => (input === 0 ? at : coarseBlurAt(radius, longEdge, at)),
  run: ([input, coarse], { amount, radius, longEdge }, at) => {
    const tile = lightOf(input, 'a veil');
    const wide = lightOf(coarse, 'a veil');
    const y = luminance(tile.planes);
    const covered = wide.alpha && coarseBlur(wide.alpha, radius, longEdge, at);
    const planes = tile.planes.map((plane, c) => {
      const { alpha } = wide;
      const own = wide.planes[c];
      const soft = coarseBlur(alpha ? own.map((v, i) => v * alpha[i]) : own, radius, longEdge, at);
      const out = new Float32Array(plane.length);
      for (let i = 0; i < out.length; i++) {
        const v = plane[i];
        // of a cut-out only what is there is blurred
        const blurred = covered ? (covered[i] > 1e-4 ? soft[i] / covered[i] : v) : soft[i];
        const by = blurred - v;
        out[i] = v + amount * (by > 0 && y[i] < ALL ? by * mayLighten(y[i]) : by);
      }
      return out;
    });
    return { ...tile, planes };
  },
});

export const veil: EditKind<VeilSettings> = {
  kind: 'veil',
  rank: 'detail',
  plain: { amount: 0, radius: 20 },
  schema: strict({ amount: share(), radius: between(1, 400) }),
  changes: ({ amount }) => amount > 0,
  says: ({ amount, radius }) => `${Math.round(100 * amount)} %, ${Math.round(radius)} px soft`,
  operators: [layVeil],
  compile: (graph, input, { amount, radius }, { longEdge = 1 }) => ({
    changed: graph.add('layVeil', { amount, radius, longEdge }, [input, input]),
  }),
};
