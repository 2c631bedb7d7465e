/** A mixture of Gaussians over colours of three channels. */
export interface ColourMixture {
  /** [component · 3] */
  readonly means: Float64Array;
  /** [component · 6] upper triangle of the inverse covariance: 00 01 02 11 12 22 */
  readonly inverses: Float64Array;
  /** [component] logarithm of weight over the volume of the Gaussian */
  readonly logs: Float64Array;
}

/** Samples of colour: three values each. */
export interface ColourSamples {
  readonly data: Float64Array;
  readonly count: number;
}

const CLUSTER_ROUNDS = 8;
const EM_ROUNDS = 4;
/** samples that a component should have at least */
const PER_COMPONENT = 12;
/** 1.5 · ln 2π */
const LOG_TWO_PI = 1.5 * Math.log(2 * Math.PI);

/** Index of the nearest mean, and the square of its distance. */
function nearest(means: Float64Array, count: number, data: Float64Array, o: number): [number, number] {
  let best = 0;
  let least = Infinity;
  for (let k = 0; k < count; k++) {
    const d =
      (data[o] - means[3 * k]) ** 2 +
      (data[o + 1] - means[3 * k + 1]) ** 2 +
      (data[o + 2] - means[3 * k + 2]) ** 2;
    if (d < least) [best, least] = [k, d];
  }
  return [best, least];
}

/** Centres to start from: the sample nearest to the mean, then each time the one farthest from all centres; made central by k-means. */
function clusterMeans({ data, count }: ColourSamples, components: number): Float64Array {
  const centre = new Float64Array(3);
  for (let i = 0; i < 3 * count; i++) centre[i % 3] += data[i] / count;
  let pick = 0;
  for (let i = 1, least = nearest(centre, 1, data, 0)[1]; i < count; i++) {
    const d = nearest(centre, 1, data, 3 * i)[1];
    if (d < least) [pick, least] = [i, d];
  }
  const means = new Float64Array(3 * components);
  for (let k = 0; k < components; k++) {
    means.set(data.subarray(3 * pick, 3 * pick + 3), 3 * k);
    let most = -1;
    for (let i = 0; i < count; i++) {
      const d = nearest(means, k + 1, data, 3 * i)[1];
      if (d > most) [pick, most] = [i, d];
    }
  }
  for (let round = 0; round < CLUSTER_ROUNDS; round++) {
    const sums = new Float64Array(3 * components);
    const members = new Float64Array(components);
    for (let i = 0; i < count; i++) {
      const [k] = nearest(means, components, data, 3 * i);
      members[k]++;
      for (let c = 0; c < 3; c++) sums[3 * k + c] += data[3 * i + c];
    }
    for (let j = 0; j < 3 * components; j++) {
      const n = members[Math.floor(j / 3)];
      if (n > 0) means[j] = sums[j] / n;
    }
  }
  return means;
}

/**
 * Fits a mixture of full-covariance Gaussians: farthest-point start, k-means, expectation maximisation (Dempster, Laird & Rubin 1977). Nothing
 * is random: the same samples give the same mixture.
 * @param most components at most; fewer where samples are few
 * @param floor variance that is added to each channel, so that few samples of one colour do not become a needle
 */
export function fitMixture(samples: ColourSamples, most: number, floor: number): ColourMixture {
  const { data, count } = samples;
  const K = Math.max(1, Math.min(most, Math.floor(count / PER_COMPONENT)));
  const means = clusterMeans(samples, K);
  const shares = new Float64Array(count * K);
  for (let i = 0; i < count; i++) shares[i * K + nearest(means, K, data, 3 * i)[0]] = 1;
  const mixture = { means, inverses: new Float64Array(6 * K), logs: new Float64Array(K) };
  for (let round = 0; ; round++) {
    for (let k = 0; k < K; k++) maximise(mixture, k, K, samples, shares, floor);
    if (round === EM_ROUNDS) return mixture;
    for (let i = 0; i < count; i++) {
      let total = 0;
      for (let k = 0; k < K; k++)
        total += shares[i * K + k] = Math.exp(logComponent(mixture, k, data, 3 * i));
      if (total > 0) for (let k = 0; k < K; k++) shares[i * K + k] /= total;
    }
  }
}

/** Mean, covariance and weight of a component from its shares of the samples. */
function maximise(
  { means, inverses, logs }: ColourMixture,
  k: number,
  K: number,
  { data, count }: ColourSamples,
  shares: Float64Array,
  floor: number,
): void {
  let weight = 1e-9;
  const m = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    const p = shares[i * K + k];
    weight += p;
    for (let c = 0; c < 3; c++) m[c] += p * data[3 * i + c];
  }
  for (let c = 0; c < 3; c++) means[3 * k + c] = m[c] /= weight;
  let [v00, v01, v02, v11, v12, v22] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < count; i++) {
    const p = shares[i * K + k] / weight;
    const [x, y, z] = [data[3 * i] - m[0], data[3 * i + 1] - m[1], data[3 * i + 2] - m[2]];
    v00 += p * x * x;
    v01 += p * x * y;
    v02 += p * x * z;
    v11 += p * y * y;
    v12 += p * y * z;
    v22 += p * z * z;
  }
  [v00, v11, v22] = [v00 + floor, v11 + floor, v22 + floor];
  const [c00, c01, c02] = [v11 * v22 - v12 * v12, v02 * v12 - v01 * v22, v01 * v12 - v02 * v11];
  const det = v00 * c00 + v01 * c01 + v02 * c02;
  const adjugate = [
    ...[c00, c01, c02],
    ...[v00 * v22 - v02 * v02, v01 * v02 - v00 * v12, v00 * v11 - v01 * v01],
  ];
  inverses.set(
    adjugate.map((a) => a / det),
    6 * k,
  );
  logs[k] = Math.log(weight / count) - 0.5 * Math.log(det) - LOG_TWO_PI;
}

/** Logarithm of what one component has of a colour. */
function logComponent(
  { means, inverses: v, logs }: ColourMixture,
  k: number,
  data: ArrayLike<number>,
  o: number,
): number {
  const [x, y, z] = [data[o] - means[3 * k], data[o + 1] - means[3 * k + 1], data[o + 2] - means[3 * k + 2]];
  const q = 6 * k;
  return (
    logs[k] -
    0.5 * (v[q] * x * x + v[q + 3] * y * y + v[q + 5] * z * z) -
    (v[q + 1] * x * y + v[q + 2] * x * z + v[q + 4] * y * z)
  );
}

/** how far below the strongest component, in logarithms, one still counts */
const FAINT = 18;

/** Density of a colour. @param data colours, three values each. @param o where the colour begins */
export function mixtureDensity(mixture: ColourMixture, data: ArrayLike<number>, o: number): number {
  const { length } = mixture.logs;
  let most = logComponent(mixture, 0, data, o);
  let sum = Math.exp(most);
  for (let k = 1; k < length; k++) {
    const log = logComponent(mixture, k, data, o);
    if (log < most - FAINT) continue;
    if (log > most) most = log;
    sum += Math.exp(log);
  }
  return sum;
}
