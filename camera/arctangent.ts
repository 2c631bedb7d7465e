const STEPS = 4096;
const TABLE = Float64Array.from({ length: STEPS + 2 }, (_, i) => Math.atan(i / STEPS));

/** The angle of (x, y) from the x axis, −π … π, by table: off by less than 1e-8, for the many that a frame takes. */
export function arctangent(y: number, x: number): number {
  const [ax, ay] = [Math.abs(x), Math.abs(y)];
  if (ax === 0 && ay === 0) return 0;
  const t = (ax > ay ? ay / ax : ax / ay) * STEPS;
  const k = t | 0;
  let angle = TABLE[k] + (t - k) * (TABLE[k + 1] - TABLE[k]);
  if (ay >= ax) angle = Math.PI / 2 - angle;
  if (x < 0) angle = Math.PI - angle;
  return y < 0 ? -angle : angle;
}
