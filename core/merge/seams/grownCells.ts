/** Cells within so many of those that are set, across, down and both. */
export function grownCells(set: Uint8Array, width: number, height: number, by: number): Uint8Array {
  const along = new Uint8Array(width * height);
  const out = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (set[i]) along.fill(1, y * width + Math.max(0, x - by), y * width + Math.min(width, x + by + 1));
  for (let y = 0; y < height; y++)
    for (let v = Math.max(0, y - by); v <= Math.min(height - 1, y + by); v++)
      for (let x = 0; x < width; x++) if (along[v * width + x]) out[y * width + x] = 1;
  return out;
}
