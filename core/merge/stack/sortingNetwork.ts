/**
 * Pairs of places to compare and exchange, one after the other, that sort any `n` numbers upwards: Batcher's merge exchange (Knuth, The Art of
 * Computer Programming 3, algorithm 5.2.2M).
 */
export function sortingNetwork(n: number): readonly (readonly [number, number])[] {
  const pairs: [number, number][] = [];
  if (n < 2) return pairs;
  const first = 2 ** (Math.ceil(Math.log2(n)) - 1);
  for (let p = first; p > 0; p >>= 1) {
    let [q, r, d] = [first, 0, p];
    for (;;) {
      for (let i = 0; i < n - d; i++) if ((i & p) === r) pairs.push([i, i + d]);
      if (q === p) break;
      d = q - p;
      q >>= 1;
      r = p;
    }
  }
  return pairs;
}
