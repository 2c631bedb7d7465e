import { operator } from '../../graph/operator';
import { resampled } from '../../graph/resample';
import { type LightTile } from '../../graph/tile';
import { lightOf } from '../../graph/wanted';
import { between, share, strict } from '../../recipe/schemaParts';
import { smoothStep } from '../../region/smoothRange';
import { coarseBlurAt, coarselyBlurred, type PlaneAt } from '../coarse/coarseBlur';
import { type EditKind } from '../editKind';
import { luminance } from '../luminance';
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
    const wides = coarse.map((value) => brightOf(lightOf(value, 'a glow'), from));
    const spreads = tile.planes.map((_, c) => {
      let spread: PlaneAt | undefined;
      // from the widest, which has the fewest pixels, to the narrowest
      for (const k of [2, 1, 0]) {
        const wide = wides[k];
        const [ratio, weight] = SPREADS[k];
        const by = weight * colour[c];
        const bright = new Float32Array(wide.bright[c].length);
        for (let i = 0; i < bright.length; i++) bright[i] = by * wide.bright[c][i];
        const own = coarselyBlurred(bright, reach * ratio, longEdge, at);
        if (spread) {
          const wider = resampled(spread.plane, spread.at, own.at);
          for (let i = 0; i < wider.length; i++) own.plane[i] += wider[i];
        }
        spread = own;
      }
      return spread ? resampled(spread.plane, spread.at, at) : new Float32Array(0);
    });
    const planes = tile.planes.map((plane, c) => {
      const [out, spread] = [new Float32Array(plane.length), spreads[c]];
      for (let i = 0; i < out.length; i++) {
        const by = spread[i] - plane[i] * shares[i];
        out[i] = by > 0 ? plane[i] + amount * by : plane[i];
      }
      return out;
    });
    return { ...tile, planes };
  },
});

/** What glows of a tile. */
function brightOf({ planes, alpha }: LightTile, from: number): { readonly bright: readonly Float32Array[] } {
  const shares = shareOf(planes, from);
  const bright = planes.map((plane) => {
    const out = new Float32Array(plane.length);
    for (let i = 0; i < out.length; i++) out[i] = plane[i] * shares[i] * (alpha ? alpha[i] : 1);
    return out;
  });
  return { bright };
}

function shareOf(planes: readonly Float32Array[], from: number): Float32Array {
  const shares = luminance(planes);
  // below it nothing glows, and most of a picture is
  const least = 0.18 * 2 ** (from - SETS_IN / 2);
  for (let i = 0; i < shares.length; i++) shares[i] = shares[i] > least ? glowingShare(shares[i], from) : 0;
  return shares;
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
