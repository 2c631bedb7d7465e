/**
 * The nearest list whose members rise by at least `step` each, by least squares: pool adjacent violators (Ayer et al. 1955).
 */
export function risingCoefficients(values: Float64Array, step: number): Float64Array {
  const pools: { mean: number; size: number }[] = [];
  values.forEach((v, i) => {
    let pool = { mean: v - i * step, size: 1 };
    for (let last = pools[pools.length - 1]; last && last.mean > pool.mean; last = pools[pools.length - 1]) {
      pools.pop();
      const size = last.size + pool.size;
      pool = { mean: (last.mean * last.size + pool.mean * pool.size) / size, size };
    }
    pools.push(pool);
  });
  return Float64Array.from(
    pools.flatMap(({ mean, size }) => Array.from({ length: size }, () => mean)),
    (mean, i) => mean + i * step,
  );
}
