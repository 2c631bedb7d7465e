const BUCKETS = 12;

/** A distinct place of a picture. */
export interface Corner {
  readonly x: number;
  readonly y: number;
  readonly strength: number;
}

/** Which corners are wanted. */
export interface CornerWish {
  /** about as many */
  readonly wanted: number;
  /** strength that noise does not reach */
  readonly least: number;
  /** pixels from the border that none lies in */
  readonly margin: number;
}

/** Local maxima of the corner strength, the strongest of each bucket first. */
export function corners(
  strength: Float32Array,
  width: number,
  height: number,
  { wanted, least, margin }: CornerWish,
): Corner[] {
  const buckets = new Map<number, Corner[]>();
  for (let y = margin; y + margin < height; y++)
    for (let x = margin, i = y * width + margin; x + margin < width; x++, i++) {
      const s = strength[i];
      if (s < least || s < strength[i - 1] || s <= strength[i + 1]) continue;
      const [a, b] = [i - width, i + width];
      if (s < strength[a] || s <= strength[b] || s < strength[a - 1] || s < strength[a + 1]) continue;
      if (s < strength[b - 1] || s < strength[b + 1]) continue;
      const key = Math.floor((y * BUCKETS) / height) * BUCKETS + Math.floor((x * BUCKETS) / width);
      const corner = {
        x: x + vertex(strength[i - 1], s, strength[i + 1]),
        y: y + vertex(strength[a], s, strength[b]),
        strength: s,
      };
      const bucket = buckets.get(key);
      if (bucket) bucket.push(corner);
      else buckets.set(key, [corner]);
    }
  const lists = [...buckets.values()];
  lists.forEach((list) => list.sort((p, q) => q.strength - p.strength));
  // round after round one from each bucket, so that an even wall is not left out for a hedge
  const out: Corner[] = [];
  for (let k = 0; out.length < wanted; k++) {
    const round = lists.flatMap((list) => (k < list.length ? [list[k]] : []));
    if (round.length === 0) break;
    round.sort((p, q) => q.strength - p.strength);
    out.push(...round.slice(0, Math.ceil(wanted - out.length)));
  }
  return out;
}

const vertex = (left: number, middle: number, right: number): number => {
  const curve = left - 2 * middle + right;
  return curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (left - right)) / curve)) : 0;
};
