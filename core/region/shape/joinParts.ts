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
    const plane = new Float32Array(area.width * area.height).fill(parts[0]?.how === 'add' ? 0 : 1);
    parts.forEach(({ how, turned }, k) => {
      const part = maskOf(inputs[k], 'a region').plane;
      // a turned part counts where it is not: sign · part + offset
      const [sign, offset] = turned ? [-1, 1] : [1, 0];
      const n = plane.length;
      if (how === 'add') for (let i = 0; i < n; i++) plane[i] += (1 - plane[i]) * (offset + sign * part[i]);
      else if (how === 'remove') for (let i = 0; i < n; i++) plane[i] *= 1 - offset - sign * part[i];
      else for (let i = 0; i < n; i++) plane[i] *= offset + sign * part[i];
    });
    return { is: 'mask', plane };
  },
});

/** Turned inside out. */
export const turnMask = operator({
  kind: 'turnMask',
  version: 1,
  gives: 'mask',
  run: ([input]) => ({ is: 'mask', plane: maskOf(input, 'a region').plane.map((v) => 1 - v) }),
});
