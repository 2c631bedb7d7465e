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
      for (let i = 0; i < plane.length; i++) {
        const a = turned ? 1 - part[i] : part[i];
        const m = plane[i];
        plane[i] = how === 'add' ? m + (1 - m) * a : how === 'remove' ? m * (1 - a) : m * a;
      }
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
