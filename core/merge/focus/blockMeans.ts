import { COARSER } from './focusPlan';

/** Means of blocks of {@link COARSER} × COARSER cells; blocks at the right and lower border may be smaller. The plain form of the kernel. */
export function blockMeans(plane: Float32Array, width: number, height: number): Float32Array {
  const [w, h] = [Math.ceil(width / COARSER), Math.ceil(height / COARSER)];
  const out = new Float32Array(w * h);
  for (let v = 0, k = 0; v < h; v++) {
    const end = Math.min(height, (v + 1) * COARSER);
    for (let u = 0; u < w; u++, k++) {
      const from = u * COARSER;
      const to = Math.min(width, from + COARSER);
      let sum = 0;
      for (let y = v * COARSER; y < end; y++)
        for (let x = y * width + from, last = y * width + to; x < last; x++) sum += plane[x];
      out[k] = sum / ((to - from) * (end - v * COARSER));
    }
  }
  return out;
}
