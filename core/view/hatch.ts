/** Period of the hatching, pixels of the view. */
const PERIOD = 9;

/**
 * Draws diagonal hatching into R G B A bytes where `strength` is above 0: a light and a dark line side by side, so that it shows on
 * any picture and tints nothing.
 * @param rising lines run up to the right; otherwise down to the right
 * @param originX position of the first pixel on the whole view, so that neighbouring pieces join
 */
export function hatch(
  rgba: Uint8ClampedArray,
  width: number,
  strength: Float32Array,
  rising: boolean,
  originX: number,
  originY: number,
): void {
  for (let i = 0; i < strength.length; i++) {
    const s = strength[i];
    if (!(s > 0.004)) continue;
    const x = (i % width) + originX;
    const y = Math.floor(i / width) + originY;
    const phase = (((rising ? x + y : x - y) % PERIOD) + PERIOD) % PERIOD;
    if (phase > 2) continue;
    const line = phase === 1 ? 245 : 20;
    const a = Math.min(1, s) * (phase === 1 ? 0.9 : 0.55);
    for (let c = 0; c < 3; c++) rgba[i * 4 + c] = rgba[i * 4 + c] * (1 - a) + line * a;
  }
}
