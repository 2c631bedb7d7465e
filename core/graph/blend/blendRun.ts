import { type Kernels, planeBytes } from '../../kernels/kernels';
import { type BlendMode, isSeparable, NON_SEPARABLE, SEPARABLE } from '../../layers/blendMode';
import { chainLoader, type LoadPixels, type ReadyChain } from '../runChain';
import { type LightTile } from '../tile';

/** A layer as it is laid over what is beneath. */
export interface LaidLayer {
  /** straight colours, in the light of what is beneath; or the changes that they come of */
  readonly over: LightTile | ReadyChain;
  /** how much of it is there, with its own opacity and where it is shown */
  readonly alpha: Float32Array;
  readonly mode: BlendMode;
}

/** places of the modes in the compiled form: the order of the tables of {@link SEPARABLE} and {@link NON_SEPARABLE} */
const NUMBERS: Readonly<Record<string, number>> = Object.fromEntries(
  [Object.keys(SEPARABLE), Object.keys(NON_SEPARABLE)].flatMap((modes) => modes.map((mode, i) => [mode, i])),
);

/** pixels that are taken through all layers at a time, so that they stay in the cache */
const CHUNK = 1 << 13;

/** How the colours of a layer come to the kernels, in the light of what is beneath. */
function loaderOf(k: Kernels, over: LaidLayer['over'], encoded: boolean): LoadPixels {
  if (!('is' in over)) return chainLoader(k, over, encoded, CHUNK);
  return (first, count, at, plane) =>
    over.planes.forEach((p, c) => k.floats(at + c * plane, count).set(p.subarray(first, first + count)));
}

/** Lays layers over what is beneath, the lowest first, in one pass over memory; each as `blended` of blendLayers.ts says. */
export function blendRun(k: Kernels, beneath: LightTile, layers: readonly LaidLayer[]): LightTile {
  const [{ length }] = beneath.planes;
  const planes = beneath.planes.map(() => new Float32Array(length));
  const covered = beneath.alpha && new Float32Array(length);
  k.borrow(() => {
    const plane = planeBytes(CHUNK);
    const [back, source, alpha] = [k.take(3 * plane), k.take(3 * plane), k.take(plane)];
    const under = covered ? k.take(plane) : 0;
    const loaders = layers.map(({ over }) => loaderOf(k, over, beneath.encoded));
    for (let first = 0; first < length; first += CHUNK) {
      const count = Math.min(CHUNK, length - first);
      const load = (from: Float32Array, at: number): void =>
        k.floats(at, count).set(from.subarray(first, first + count));
      beneath.planes.forEach((p, c) => load(p, back + c * plane));
      if (beneath.alpha) load(beneath.alpha, under);
      for (const [i, { alpha: share, mode }] of layers.entries()) {
        loaders[i](first, count, source, plane);
        load(share, alpha);
        const number = NUMBERS[mode];
        if (isSeparable(mode))
          for (let c = 0; c < 3; c++)
            k.blendPlane(number, back + c * plane, source + c * plane, alpha, under, count);
        else k.blendColours(number, back, source, plane, alpha, under, count);
        if (under) k.coverPlane(under, alpha, count);
      }
      planes.forEach((p, c) => p.set(k.floats(back + c * plane, count), first));
      covered?.set(k.floats(under, count), first);
    }
  });
  return { is: 'light', encoded: beneath.encoded, planes, ...(covered ? { alpha: covered } : {}) };
}
