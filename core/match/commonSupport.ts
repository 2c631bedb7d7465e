import { oklabOf } from '../colour/oklab';
import { lightOf } from './mapSamples';
import { type Samples } from './samples';
import { type TransportWeights } from './slicedTransport';

const SIDE = 8;
/** Oklab a and b from −0.2 to 0.2 */
const CHROMA = 0.2;

interface Cells {
  /** [cell] share of the samples, blurred */
  readonly share: Float64Array;
  /** [sample] its cell */
  readonly cell: Uint16Array;
}

function cellsOf(samples: Samples): Cells {
  const light = lightOf(samples);
  const n = samples.length / 3;
  const index = (v: number): number => Math.min(SIDE - 1, Math.max(0, Math.floor(v)));
  const cell = Uint16Array.from({ length: n }, (_, i) => {
    const [L, a, b] = oklabOf(light[3 * i], light[3 * i + 1], light[3 * i + 2]);
    const chroma = (v: number): number => index(((v + CHROMA) / (2 * CHROMA)) * SIDE);
    return index(L * SIDE) * SIDE * SIDE + chroma(a) * SIDE + chroma(b);
  });
  let share = new Float64Array(SIDE ** 3);
  for (const k of cell) share[k] += 1 / n;
  // [1 2 1] / 4 along each axis
  for (const step of [1, SIDE, SIDE * SIDE])
    share = share.map((v, i) => {
      const at = Math.floor(i / step) % SIDE;
      return (v + 0.5 * ((at > 0 ? share[i - step] : 0) + (at < SIDE - 1 ? share[i + step] : 0))) / 2;
    });
  return { share, cell };
}

/** Samples that both sides have alike. */
export interface CommonSupport extends TransportWeights {
  /** part of the picture's colours that the reference has too, 0…1 */
  readonly share: number;
}

/** How much each sample's colour is found on both sides, in cells of Oklab. @param floor what every sample weighs at least */
export function commonSupport(own: Samples, reference: Samples, floor: number): CommonSupport {
  const [a, b] = [cellsOf(own), cellsOf(reference)];
  const both = a.share.map((v, i) => Math.min(v, b.share[i]));
  const part = ({ share, cell }: Cells): Float64Array =>
    Float64Array.from(cell, (k) => both[k] / (share[k] + 1e-9));
  const [ours, theirs] = [part(a), part(b)];
  return {
    share: ours.reduce((sum, v) => sum + v, 0) / ours.length,
    own: ours.map((v) => v + floor),
    reference: theirs.map((v) => v + floor),
  };
}
