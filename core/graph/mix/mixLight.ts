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
    const planes = to.planes.map((p, c) => {
      const own = from.planes[c];
      const mixed = new Float32Array(p.length);
      if (share) for (let i = 0; i < p.length; i++) mixed[i] = own[i] + amount * share[i] * (p[i] - own[i]);
      else for (let i = 0; i < p.length; i++) mixed[i] = own[i] + amount * (p[i] - own[i]);
      return mixed;
    });
    return { ...to, planes };
  },
});
