import { type Kernels, planeBytes } from '../kernels/kernels';
import { type Within } from './operator';
import { type LightTile, type MaskTile } from './tile';

/** One change of a chain, and how far it is taken over. */
export interface Step {
  readonly within: (k: Kernels) => Within;
  /** 1 takes it whole */
  readonly amount: number;
  /** hash of the mask by which it is taken over; absent for everywhere */
  readonly mask?: string;
}

/** Changes that look at one pixel at a time, one after the other. */
export interface Chain {
  /** hash of the node that they begin at */
  readonly from: string;
  /** first change first */
  readonly steps: readonly Step[];
}

/** pixels that are taken through all changes at a time, so that they stay in the cache */
const CHUNK = 1 << 14;

/** A chain with what it takes. */
export interface ReadyChain extends Chain {
  readonly light: LightTile;
  /** of its steps, in their order */
  readonly masks: readonly (MaskTile | undefined)[];
}

/** Puts some pixels of three planes, `plane` bytes apart, where kernels find them. */
export type LoadPixels = (first: number, count: number, at: number, plane: number) => void;

/**
 * Loads pixels as a chain leaves them. What it works with lies in the kernels' memory until the caller gives that back.
 * @param most pixels at a time
 */
export function chainLoader(
  k: Kernels,
  { light, steps, masks }: ReadyChain,
  encodes: boolean,
  most: number,
): LoadPixels {
  const room = planeBytes(most);
  const mixes = steps.some((s) => s.amount < 1 || s.mask !== undefined);
  const [before, share] = mixes ? [k.take(3 * room), k.take(room)] : [0, 0];
  const runs = steps.map((s) => s.within(k));
  return (first, count, at, plane) => {
    light.planes.forEach((p, c) => {
      k.floats(at + c * plane, count).set(p.subarray(first, first + count));
      if (light.encoded) k.decodePlane(at + c * plane, count, 1);
    });
    steps.forEach(({ amount }, i) => {
      const mask = masks[i]?.plane.subarray(first, first + count);
      if (mask?.every((v) => v === 0)) return;
      const partly = amount < 1 || mask !== undefined;
      if (partly)
        for (let c = 0; c < 3; c++) k.floats(before + c * room, count).set(k.floats(at + c * plane, count));
      runs[i](at, plane, count);
      if (!partly) return;
      if (mask) k.floats(share, count).set(mask);
      for (let c = 0; c < 3; c++)
        k.mixPlane(at + c * plane, before + c * room, mask ? share : 0, count, amount);
    });
    if (encodes) for (let c = 0; c < 3; c++) k.encodeOpenPlane(at + c * plane, count);
  };
}

/** Runs a chain over a tile. @returns linear light */
export function runChain(k: Kernels, chain: ReadyChain): LightTile {
  const { planes, alpha } = chain.light;
  const [{ length }] = planes;
  const out = planes.map(() => new Float32Array(length));
  k.borrow(() => {
    const plane = planeBytes(CHUNK);
    const at = k.take(3 * plane);
    const load = chainLoader(k, chain, false, CHUNK);
    for (let first = 0; first < length; first += CHUNK) {
      const count = Math.min(CHUNK, length - first);
      load(first, count, at, plane);
      out.forEach((p, c) => p.set(k.floats(at + c * plane, count), first));
    }
  });
  return { is: 'light', planes: out, encoded: false, ...(alpha ? { alpha } : {}) };
}
