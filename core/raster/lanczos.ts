export const LANCZOS_PHASES = 1024;
export const LANCZOS_TAPS = 6;

/** Lanczos-3 weights for every 1/1024 of a pixel, each set of six (taps −2 … 3) summing to 1 (Duchon 1979). */
export const LANCZOS = ((): Float32Array => {
  const table = new Float32Array((LANCZOS_PHASES + 1) * LANCZOS_TAPS);
  const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
  for (let p = 0; p <= LANCZOS_PHASES; p++) {
    let sum = 0;
    const at = p * LANCZOS_TAPS;
    for (let k = 0; k < LANCZOS_TAPS; k++) {
      const d = p / LANCZOS_PHASES - (k - 2);
      const w = Math.abs(d) < 3 ? sinc(d) * sinc(d / 3) : 0;
      table[at + k] = w;
      sum += w;
    }
    for (let k = 0; k < LANCZOS_TAPS; k++) table[at + k] /= sum;
  }
  return table;
})();
