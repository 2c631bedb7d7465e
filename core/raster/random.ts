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

/** Coefficients (from memory, held against tables in the test): numerators and denominators, highest power first, near the middle and in both parts of the tails. */
const QUANTILE = {
  middle: [
    [
      2509.0809287301226727, 33430.575583588128105, 67265.770927008700853, 45921.953931549871457,
      13731.693765509461125, 1971.5909503065514427, 133.14166789178437745, 3.387132872796366608,
    ],
    [
      5226.495278852854561, 28729.085735721942674, 39307.89580009271061, 21213.794301586595867,
      5394.1960214247511077, 687.1870074920579083, 42.313330701600911252, 1,
    ],
  ],
  near: [
    [
      7.7454501427834140764e-4, 0.0227238449892691845833, 0.24178072517745061177, 1.27045825245236838258,
      3.64784832476320460504, 5.7694972214606914055, 4.6303378461565452959, 1.42343711074968357734,
    ],
    [
      1.05075007164441684324e-9, 5.475938084995344946e-4, 0.0151986665636164571966, 0.14810397642748007459,
      0.68976733498510000455, 1.6763848301838038494, 2.05319162663775882187, 1,
    ],
  ],
  far: [
    [
      2.01033439929228813265e-7, 2.71155556874348757815e-5, 0.0012426609473880784386, 0.026532189526576123093,
      0.29656057182850489123, 1.7848265399172913358, 5.4637849111641143699, 6.6579046435011037772,
    ],
    [
      2.04426310338993978564e-15, 1.4215117583164458887e-7, 1.8463183175100546818e-5, 7.868691311456132591e-4,
      0.0148753612908506148525, 0.13692988092273580531, 0.59983220655588793769, 1,
    ],
  ],
} as const;

const ratio = ([over, under]: readonly (readonly number[])[], x: number): number =>
  over.reduce((sum, k) => sum * x + k, 0) / under.reduce((sum, k) => sum * x + k, 0);

/** The number below which a share of the standard normal distribution lies, to 1e-16 (Wichura 1988, algorithm AS 241). @param share 0…1 */
export function normalQuantile(share: number): number {
  const q = share - 0.5;
  if (Math.abs(q) <= 0.425) return q * ratio(QUANTILE.middle, 0.180625 - q * q);
  const r = Math.sqrt(-Math.log(Math.min(share, 1 - share)));
  const z = r <= 5 ? ratio(QUANTILE.near, r - 1.6) : ratio(QUANTILE.far, r - 5);
  return Math.sign(q) * z;
}
