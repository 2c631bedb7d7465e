/**
 * The sRGB transfer function (IEC 61966-2-1): code value to light and back, continued as an odd function below zero.
 */

/** Encoded 0…1 to linear 0…1; odd for negatives, the power law continued above 1. */
export function srgbToLinear(encoded: number): number {
  const v = Math.abs(encoded);
  const linear = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  return encoded < 0 ? -linear : linear;
}

/** Linear to encoded; the inverse of {@link srgbToLinear}. */
export function linearToSrgb(linear: number): number {
  const v = Math.abs(linear);
  const encoded = v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
  return linear < 0 ? -encoded : encoded;
}

/** Linear light of every code value 0…white. */
export function linearTable(white: number): Float32Array {
  const table = new Float32Array(white + 1);
  for (let i = 0; i <= white; i++) table[i] = srgbToLinear(i / white);
  return table;
}

const STEPS = 4096;
const TO_LINEAR = new Float32Array(STEPS + 2);
for (let i = 0; i < TO_LINEAR.length; i++) TO_LINEAR[i] = srgbToLinear(i / STEPS);

/** Decodes a plane in place: encoded to linear by linear interpolation in a 4096-step table (error below 1e-7 of white), exact above 1. */
export function decodePlane(plane: Float32Array): void {
  for (let i = 0; i < plane.length; i++) {
    const v = plane[i];
    if (v >= 0 && v < 1) {
      const t = v * STEPS;
      const k = t | 0;
      plane[i] = TO_LINEAR[k] + (t - k) * (TO_LINEAR[k + 1] - TO_LINEAR[k]);
    } else plane[i] = srgbToLinear(v);
  }
}

// The square root of the light spreads the darks, so an even table is exact enough there: step 1/4095 of sqrt.
const TO_SRGB = new Float32Array(STEPS + 2);
for (let i = 0; i < TO_SRGB.length; i++) TO_SRGB[i] = linearToSrgb((i / STEPS) ** 2);

/** Linear light to encoded 0…1 with clipping, by table; error below 1e-4 of white in the darkest code and 1e-6 elsewhere. */
export function encodeClipped(linear: number): number {
  if (!(linear > 0)) return 0;
  if (linear >= 1) return 1;
  if (linear <= 0.0031308) return linear * 12.92;
  const t = Math.sqrt(linear) * STEPS;
  const k = t | 0;
  return TO_SRGB[k] + (t - k) * (TO_SRGB[k + 1] - TO_SRGB[k]);
}
