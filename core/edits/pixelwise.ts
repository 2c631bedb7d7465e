import { type Operator, type Within } from '../graph/operator';
import { lightOf } from '../graph/wanted';
import { type Kernels } from '../kernels/kernels';

/** Changes planes of linear light in place. */
type PlainChange = (planes: readonly Float32Array[]) => void;

/**
 * The parts of an operator that changes its first input pixel by pixel in linear light: a compiled form, and the plain one which it is held
 * against and which runs where there is no WebAssembly.
 */
export function pixelwise<S extends object>({
  plain,
  within,
}: {
  readonly plain: (settings: S) => PlainChange;
  readonly within: (k: Kernels, settings: S) => Within;
}): Required<Pick<Operator<S>, 'works' | 'run' | 'within'>> {
  return {
    works: 'linear',
    run: ([input], settings) => {
      const tile = lightOf(input, 'a change of pixels');
      const planes = tile.planes.map((p) => p.slice());
      plain(settings)(planes);
      return { ...tile, planes };
    },
    within,
  };
}
