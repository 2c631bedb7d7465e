import { placeHash, type Samples } from './samples';

/** Where one side's samples lie along a direction. */
interface Projection {
  /** [sample] bins from the lower end */
  readonly at: Float32Array;
  /** [bin + 1] share of weight below */
  readonly below: Float64Array;
  /** bins a code */
  readonly scale: number;
}

type Direction = readonly [number, number, number];

const BINS = 1024;
/** orthonormal triples: the channels, an opponent triple, then fixed turned ones (Shoemake 1992) */
export const TURNED = 58;

/** An orthonormal triple of directions. @param k 0 the channels, 1 opponent colours, from 2 on turned */
function triple(k: number): readonly Direction[] {
  if (k === 0)
    return [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
  if (k === 1) {
    const [a, b, c] = [Math.SQRT1_2, 1 / Math.sqrt(3), 1 / Math.sqrt(6)];
    return [
      [b, b, b],
      [a, 0, -a],
      [c, -2 * c, c],
    ];
  }
  const u = (j: number): number => (placeHash(k * 7 + j) + 0.5) / 2 ** 32;
  const [s, t] = [Math.sqrt(1 - u(1)), Math.sqrt(u(1))];
  const [a, b] = [2 * Math.PI * u(2), 2 * Math.PI * u(3)];
  const [x, y, z, w] = [s * Math.sin(a), s * Math.cos(a), t * Math.sin(b), t * Math.cos(b)];
  return [
    [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
    [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
    [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
  ];
}

function project(samples: Samples, [d0, d1, d2]: Direction, weight?: Float64Array): Projection {
  const low = Math.min(0, d0) + Math.min(0, d1) + Math.min(0, d2);
  const high = Math.max(0, d0) + Math.max(0, d1) + Math.max(0, d2);
  const scale = BINS / (high - low);
  const n = samples.length / 3;
  const at = new Float32Array(n);
  const below = new Float64Array(BINS + 1);
  let total = 0;
  for (let i = 0; i < n; i++) {
    const code = samples[3 * i] * d0 + samples[3 * i + 1] * d1 + samples[3 * i + 2] * d2;
    at[i] = Math.min(Math.max((code - low) * scale, 0), BINS - 1e-3);
    const w = weight ? weight[i] : 1;
    below[Math.floor(at[i]) + 1] += w;
    total += w;
  }
  for (let i = 1; i <= BINS; i++) below[i] += below[i - 1];
  return { at, below: below.map((v) => v / total), scale };
}

/** Weights of both sides' samples; all alike when left out. */
export interface TransportWeights {
  readonly own: Float64Array;
  readonly reference: Float64Array;
}

/**
 * Where each sample should go so that its projections take the reference's quantiles: the mean displacement over whole triples of directions
 * (Pitié, Kokaram & Dahyot 2005; sliced transport, Bonneel et al. 2015).
 * @param triples which orthonormal triples
 * @param reach displacements are taken this many times: a mean over slices falls short
 */
export function slicedTransport(
  samples: Samples,
  reference: Samples,
  triples: readonly number[],
  reach: number,
  weights?: TransportWeights,
): Samples {
  const out = samples.slice();
  const gain = reach / triples.length;
  for (const direction of triples.flatMap(triple)) {
    const own = project(samples, direction, weights?.own);
    const other = project(reference, direction, weights?.reference);
    const map = quantileMap(own.below, other.below);
    for (let i = 0; i < own.at.length; i++) {
      const bin = Math.floor(own.at[i]);
      const to = map[bin] + (own.at[i] - bin) * (map[bin + 1] - map[bin]);
      const move = ((to - own.at[i]) / own.scale) * gain;
      for (let c = 0; c < 3; c++) out[3 * i + c] += move * direction[c];
    }
  }
  return out;
}

/** [bin] where the same share lies below on the other side, bins. */
function quantileMap(own: Float64Array, other: Float64Array): Float64Array {
  const map = new Float64Array(BINS + 1);
  for (let i = 0, j = 0; i <= BINS; i++) {
    while (j < BINS && other[j + 1] < own[i]) j++;
    const wide = j < BINS ? other[j + 1] - other[j] : 0;
    map[i] = j + (wide > 0 ? Math.min(1, Math.max(0, (own[i] - other[j]) / wide)) : 0);
  }
  // the empty lower end says nothing
  map[0] = Math.min(map[0], map[1]);
  return map;
}
