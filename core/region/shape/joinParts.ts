import { type Kernels, kernels } from '../../kernels/kernels';
import { operator } from '../../graph/operator';
import { maskOf } from '../../graph/wanted';
import { type Join } from '../region';

/** How each input joins those before it. */
export interface JoinSettings {
  readonly parts: readonly { readonly how: Join; readonly turned: boolean }[];
}

/**
 * Parts joined, in order: added m + (1 − m)·a, taken away m·(1 − a), kept to m·a. What begins with an added part begins with nothing, everything
 * else with the whole.
 */
export const joinParts = operator<JoinSettings>({
  kind: 'joinParts',
  version: 1,
  gives: 'mask',
  run: (inputs, { parts }, { area }) => {
    const planes = parts.map((_, k) => maskOf(inputs[k], 'a region').plane);
    return { is: 'mask', plane: joined(parts, planes, area.width * area.height) };
  },
});

/** @param compiled null for the plain form, which the compiled one is held against */
export function joined(
  parts: JoinSettings['parts'],
  planes: readonly Float32Array[],
  length: number,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const first = parts[0]?.how === 'add' ? 0 : 1;
  // each is added or kept to: gain · part + offset; a turned part counts where it is not, one taken away likewise
  const steps = parts.map(({ how, turned }) => {
    const away = turned !== (how === 'remove');
    return { adds: how === 'add', gain: away ? -1 : 1, offset: away ? 1 : 0 };
  });
  if (compiled)
    return compiled.borrow(() => {
      const mask = compiled.take(4 * length);
      const part = compiled.take(4 * length);
      compiled.floats(mask, length).fill(first);
      steps.forEach(({ adds, gain, offset }, k) => {
        compiled.floats(part, length).set(planes[k]);
        compiled.joinPlane(mask, part, length, Number(adds), gain, offset);
      });
      return compiled.floats(mask, length).slice();
    });
  const plane = new Float32Array(length).fill(first);
  steps.forEach(({ adds, gain, offset }, k) => {
    for (let i = 0; i < length; i++) {
      const p = offset + gain * planes[k][i];
      plane[i] = adds ? plane[i] + (1 - plane[i]) * p : plane[i] * p;
    }
  });
  return plane;
}

/** Turned inside out. */
export const turnMask = operator({
  kind: 'turnMask',
  version: 1,
  gives: 'mask',
  run: ([input]) => ({ is: 'mask', plane: maskOf(input, 'a region').plane.map((v) => 1 - v) }),
});
