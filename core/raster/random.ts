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

const STEPS = 65536;
/** lengths and directions of Box & Muller's pairs, each in 65 536 even steps of its uniform number */
const LENGTHS = Float32Array.from({ length: STEPS }, (_, i) => Math.sqrt(-2 * Math.log((i + 0.5) / STEPS)));
const COSINES = Float32Array.from({ length: STEPS }, (_, i) => Math.cos((2 * Math.PI * (i + 0.5)) / STEPS));
const BLOCK = 2048;

/** Standard normal numbers by tables, for the many that noise takes: made a block at a time, never beyond 4.85 (Box & Muller 1958). */
export function tabledNormals(seed: number): () => number {
  const block = new Float64Array(BLOCK);
  let at = BLOCK;
  let s = seed >>> 0;
  return () => {
    if (at === BLOCK) {
      // the steps of randomSource, all 32 bits of each
      for (at = 0; at < BLOCK; at += 2) {
        s = (s + 0x6d2b79f5) | 0;
        let t = Math.imul(s ^ (s >>> 15), s | 1);
        t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
        t ^= t >>> 14;
        const length = LENGTHS[t >>> 16];
        block[at] = length * COSINES[t & (STEPS - 1)];
        block[at + 1] = length * COSINES[(t - STEPS / 4) & (STEPS - 1)];
      }
      at = 0;
    }
    return block[at++];
  };
}
