import { operator } from '../../graph/operator';
import { lightOf } from '../../graph/wanted';
import { between, share, strict } from '../../recipe/schemaParts';
import { smoothStep } from '../../region/smoothRange';
import { coarseBlur, coarseBlurAt } from '../coarse/coarseBlur';
import { type EditKind } from '../editKind';
import { signed } from '../signed';

/** What is bright glows about itself, as in a lens. A light itself stays as it is: in a picture it is mostly burnt out, and what it loses to its glow is not seen. */
export interface GlowSettings {
  /** share of the bright light that is seen about it, 0…1 */
  readonly amount: number;
  /** stops over middle grey from which on light glows */
  readonly from: number;
  /** sigma of the widest of three spreads, full-size pixels */
  readonly reach: number;
  /** −1 bluish … 1 reddish, against what glows */
  readonly warmth: number;
}

/** sigmas over the reach, and the shares of the light: much close by, little far, as glare falls off (Spencer et al., *Physically-Based Glare Effects for Digital Images*, 1995, in its general course; the numbers are ours) */
export const SPREADS = [
  [1 / 9, 0.5],
  [1 / 3, 0.3],
  [1, 0.2],
] as const;
/** stops over which what glows sets in */
const SETS_IN = 2;

/** Gains of R, G, B of the glow, luminance kept for white. */
export function glowColour(warmth: number): readonly [number, number, number] {
  const [r, b] = [2 ** (0.6 * warmth), 2 ** (-0.9 * warmth)];
  const y = 0.2126 * r + 0.7152 + 0.0722 * b;
  return [r / y, 1 / y, b / y];
}

/** Share of the light of a pixel that glows. @param y its luminance */
export const glowingShare = (y: number, from: number): number =>
  y > 0 ? smoothStep((Math.log2(y / 0.18) - from) / SETS_IN + 0.5) : 0;

const spreadBright = operator<GlowSettings & { readonly longEdge: number }>({
  kind: 'spreadBright',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: ({ reach, longEdge }, at, input) =>
    input === 0 ? at : coarseBlurAt(reach * SPREADS[input - 1][0], longEdge, at),
  run: ([input, ...coarse], { amount, from, reach, warmth, longEdge }, at) => {
    const tile = lightOf(input, 'a glow');
    const colour = glowColour(warmth);
    const shares = shareOf(tile.planes, from);
    const spreads = tile.planes.map((plane) => new Float32Array(plane.length));
    coarse.forEach((value, k) => {
      const wide = lightOf(value, 'a glow');
      const wideShares = shareOf(wide.planes, from);
      const [ratio, weight] = SPREADS[k];
      wide.planes.forEach((plane, c) => {
        const bright = plane.map((v, i) => v * wideShares[i] * (wide.alpha?.[i] ?? 1));
        const spread = coarseBlur(bright, reach * ratio, longEdge, at);
        const by = weight * colour[c];
        const out = spreads[c];
        for (let i = 0; i < out.length; i++) out[i] += by * spread[i];
      });
    });
    const planes = tile.planes.map((plane, c) =>
      plane.map((v, i) => v + amount * Math.max(0, spreads[c][i] - v * shares[i])),
    );
    return { ...tile, planes };
  },
});

function shareOf([R, G, B]: readonly Float32Array[], from: number): Float32Array {
  return R.map((r, i) => glowingShare(0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i], from));
}

export const glow: EditKind<GlowSettings> = {
  kind: 'glow',
  rank: 'finish',
  plain: { amount: 0, from: 1.5, reach: 60, warmth: 0 },
  schema: strict({
    amount: share(),
    from: between(-4, 10),
    reach: between(2, 1000),
    warmth: between(-1, 1),
  }),
  changes: ({ amount }) => amount > 0,
  says: ({ amount, from, reach }) =>
    `${Math.round(100 * amount)} % of what is over ${signed(from, 1)} EV, ${Math.round(reach)} px wide`,
  operators: [spreadBright],
  compile: (graph, input, settings, { longEdge = 1 }) => ({
    changed: graph.add('spreadBright', { ...settings, longEdge }, [input, input, input, input]),
  }),
};
