import { type Kernels, kernels } from '../../kernels/kernels';
import { inLight } from '../light';
import { operator } from '../operator';
import { isNowhere, lightOf, maskOf } from '../wanted';

/** places among the inputs */
const [CHANGED, MASK] = [1, 2];

/** A change taken over in part. Inputs: light before, light changed, and a mask where it is not everywhere. */
export const mixLight = operator<{ readonly amount: number }>({
  kind: 'mix',
  version: 1,
  gives: 'light',
  // a change that is made nowhere here is not made
  skips: (input, made) => input === CHANGED && isNowhere(made[MASK]),
  run: ([before, changed, mask], { amount }) => {
    if (!changed) return lightOf(before, 'a change');
    const to = lightOf(changed, 'a change');
    const from = inLight(lightOf(before, 'a change'), to.encoded);
    const share = mask && maskOf(mask, 'a change').plane;
    return { ...to, planes: mixed(from.planes, to.planes, amount, share) };
  },
});

/** before + amount · share · (changed − before). @param compiled null for the plain form, which the compiled one is held against */
export function mixed(
  before: readonly Float32Array[],
  changed: readonly Float32Array[],
  amount: number,
  share?: Float32Array,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array[] {
  if (!compiled)
    return changed.map((p, c) =>
      p.map((v, i) => before[c][i] + amount * (share?.[i] ?? 1) * (v - before[c][i])),
    );
  return compiled.borrow(() => {
    const part = share ? compiled.upload(share) : 0;
    return changed.map((p, c) =>
      compiled.borrow(() => {
        const [own, at] = [compiled.upload(before[c]), compiled.upload(p)];
        compiled.mixPlane(at, own, part, p.length, amount);
        return compiled.floats(at, p.length).slice();
      }),
    );
  });
}
