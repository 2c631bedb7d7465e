import { type Kernels } from '../kernels/kernels';
import { linearToSrgb, srgbToLinear } from './srgb';

const STEPS = 4096;

function gainTable(stops: number): Float32Array {
  const gain = 2 ** stops;
  return Float32Array.from({ length: STEPS + 2 }, (_, i) =>
    Math.min(1, linearToSrgb(srgbToLinear(i / STEPS) * gain)),
  );
}

/**
 * The map of sRGB-encoded values that brightens their light by `stops`: clips to 0…1, table with linear interpolation
 * (error below 1e-4 of white).
 */
export function encodedGain(stops: number): (encoded: number) => number {
  if (stops === 0) return (v) => (v < 0 ? 0 : v > 1 ? 1 : v);
  const table = gainTable(stops);
  return (v) => {
    if (!(v > 0)) return 0;
    if (v >= 1) return table[STEPS];
    const t = v * STEPS;
    const k = t | 0;
    return table[k] + (t - k) * (table[k + 1] - table[k]);
  };
}

/** {@link encodedGain} of whole planes, in place; without a gain they stay unclipped. */
export function brightenPlanes(planes: readonly Float32Array[], stops: number): void {
  if (stops === 0) return;
  const table = gainTable(stops);
  for (const plane of planes)
    for (let i = 0; i < plane.length; i++) {
      const v = plane[i];
      const t = v > 0 ? (v < 1 ? v * STEPS : STEPS) : 0;
      const k = t | 0;
      plane[i] = table[k] + (t - k) * (table[k + 1] - table[k]);
    }
}

/** {@link brightenPlanes} of `count` values in the kernels' memory. To be asked for and used within one {@link Kernels.borrow}. */
export function brightenWithin(compiled: Kernels, stops: number): (plane: number, count: number) => void {
  if (stops === 0) return () => undefined;
  const table = compiled.upload(gainTable(stops));
  return (plane, count) => compiled.brightenPlane(plane, count, table, STEPS);
}
