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
