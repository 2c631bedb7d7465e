import { type Operator, operator } from '../graph/operator';
import { lightOf } from '../graph/wanted';

/** An operator that says for each pixel of its first input how well its colour is one that is wanted. @param share of linear R, G, B, 0…1 */
export function rangeOperator<S extends object>(
  kind: string,
  version: number,
  share: (settings: S) => (r: number, g: number, b: number) => number,
): Operator {
  return operator<S>({
    kind,
    version,
    gives: 'mask',
    works: 'linear',
    run: ([input], settings) => {
      const [R, G, B] = lightOf(input, kind).planes;
      const of = share(settings);
      const plane = new Float32Array(R.length);
      for (let i = 0; i < plane.length; i++) plane[i] = of(R[i], G[i], B[i]);
      return { is: 'mask', plane };
    },
  });
}
