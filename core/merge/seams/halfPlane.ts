/** A plane of half the size, each cell the mean of those that it covers. */
export function halfPlane(plane: Float32Array, width: number, height: number): Float32Array {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const out = new Float32Array(w * h);
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o++) {
      const [left, top] = [2 * x, 2 * y];
      const [right, bottom] = [Math.min(left + 1, width - 1), Math.min(top + 1, height - 1)];
      out[o] =
        (plane[top * width + left] +
          plane[top * width + right] +
          plane[bottom * width + left] +
          plane[bottom * width + right]) /
        4;
    }
  return out;
}
