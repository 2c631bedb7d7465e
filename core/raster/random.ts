/** A seeded source of uniform numbers in [0, 1) (mulberry32, public domain): the same seed gives the same sequence everywhere. */
export function randomSource(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), s | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Standard normal numbers from a uniform source (Box & Muller 1958). */
export function normalSource(uniform: () => number): () => number {
  let spare: number | undefined;
  return () => {
    if (spare !== undefined) {
      const v = spare;
      spare = undefined;
      return v;
    }
    const r = Math.sqrt(-2 * Math.log(1 - uniform()));
    const a = 2 * Math.PI * uniform();
    spare = r * Math.sin(a);
    return r * Math.cos(a);
  };
}
