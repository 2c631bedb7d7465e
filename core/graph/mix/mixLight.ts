import { inLight } from '../light';
import { operator } from '../operator';
import { lightOf, maskOf } from '../wanted';

/** A change taken over in part. Inputs: light before, light changed, and a mask where it is not everywhere. */
export const mixLight = operator<{ readonly amount: number }>({
  kind: 'mix',
  version: 1,
  gives: 'light',
  run: ([before, changed, mask], { amount }) => {
    const to = lightOf(changed, 'a change');
    const from = inLight(lightOf(before, 'a change'), to.encoded);
    const share = mask && maskOf(mask, 'a change').plane;
    const planes = to.planes.map((p, c) => {
      const own = from.planes[c];
      return p.map((v, i) => own[i] + amount * (share ? share[i] : 1) * (v - own[i]));
    });
    return { ...to, planes };
  },
});
