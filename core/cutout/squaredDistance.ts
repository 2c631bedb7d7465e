/** what a float holds exactly */
const FAR = 2 ** 40;

/**
 * Squared Euclidean distance of every pixel to the nearest that is in a set, exact (Felzenszwalb & Huttenlocher 2012, lower envelopes of
 * parabolas by rows and columns).
 * @param inside [pixel] not 0 for the set
 * @returns [pixel] px²; 2⁴⁰ where the set is empty
 */
export function squaredDistance(inside: Uint8Array, width: number, height: number): Float32Array {
  const out = new Float32Array(inside.length).fill(FAR);
  for (let i = 0; i < out.length; i++) if (inside[i]) out[i] = 0;
  const n = Math.max(width, height);
  const line = new Float64Array(n);
  const vertex = new Int32Array(n);
  const bound = new Float64Array(n + 1);
  const pass = (length: number, offset: number, step: number): void => {
    for (let q = 0; q < length; q++) line[q] = out[offset + q * step];
    let k = 0;
    vertex[0] = 0;
    bound[0] = -FAR;
    bound[1] = FAR;
    for (let q = 1; q < length; q++) {
      const cross = (): number =>
        (line[q] + q * q - (line[vertex[k]] + vertex[k] ** 2)) / (2 * q - 2 * vertex[k]);
      let s = cross();
      while (s <= bound[k] && k > 0) {
        k--;
        s = cross();
      }
      if (s > bound[k]) k++;
      vertex[k] = q;
      bound[k] = k > 0 ? s : -FAR;
      bound[k + 1] = FAR;
    }
    k = 0;
    for (let q = 0; q < length; q++) {
      while (bound[k + 1] < q) k++;
      out[offset + q * step] = Math.min(FAR, (q - vertex[k]) ** 2 + line[vertex[k]]);
    }
  };
  for (let x = 0; x < width; x++) pass(height, x, width);
  for (let y = 0; y < height; y++) pass(width, y * width, 1);
  return out;
}

/** Pixels on either side of where a label changes. @param label [pixel] 0 or 1 */
export function edgePixels(label: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(label.length);
  const mark = (a: number, b: number): void => {
    if (label[a] !== label[b]) out[a] = out[b] = 1;
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (x + 1 < width) mark(i, i + 1);
      if (y + 1 < height) mark(i, i + width);
    }
  return out;
}
