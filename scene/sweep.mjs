// Bodies of rings along a path, and feathers: what the bird and the walker are made of.
import { noise } from './exr.mjs';
import { addv, cross, norm, scl, sub } from './mesh.mjs';

/** Point of a Catmull-Rom curve through `points` at t from 0 to 1; works on numbers of any length. */
export function curveAt(points, t) {
  const x = Math.min(0.99999, Math.max(0, t)) * (points.length - 1);
  const i = Math.floor(x);
  const u = x - i;
  const at = (k) => points[Math.min(points.length - 1, Math.max(0, k))];
  const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
  return b.map(
    (_, k) =>
      0.5 *
      (2 * b[k] +
        (c[k] - a[k]) * u +
        (2 * a[k] - 5 * b[k] + 4 * c[k] - d[k]) * u * u +
        (3 * b[k] - a[k] - 3 * c[k] + d[k]) * u * u * u),
  );
}

/** Frame of a sweep at t: its point, direction and the two directions across, the first nearest to `side`. */
export function frameAt(points, t, side = [0, 0, 1]) {
  const p = curveAt(points, t);
  const d = norm(sub(curveAt(points, t + 0.01), curveAt(points, t - 0.01)));
  const up = norm(cross(d, side));
  return { p, d, across: norm(cross(up, d)), up };
}

/**
 * A closed body along a curve. `sizes` are half widths [across, up] on the way; `folds` metres of lumps, `grain` how many of them
 * in a metre along and around.
 */
export function sweep(
  mesh,
  points,
  sizes,
  texture,
  { rings = 24, around = 28, folds = 0, grain = [6, 3], seed = 0 } = {},
) {
  const made = [];
  let way = 0;
  let before;
  for (let i = 0; i <= rings; i++) {
    const t = i / rings;
    const { p, across, up } = frameAt(points, t);
    const [a, b] = curveAt(sizes, t);
    if (before) way += Math.hypot(...sub(p, before));
    before = p;
    const ring = [];
    for (let j = 0; j <= around; j++) {
      const w = (2 * Math.PI * j) / around;
      const lump =
        folds * noise(seed + Math.cos(w) * grain[1], seed + Math.sin(w) * grain[1], way * grain[0]) +
        0.4 *
          folds *
          noise(seed + Math.cos(w) * grain[1] * 3, Math.sin(w) * grain[1] * 3, way * grain[0] * 2.4 + 9);
      const at = addv(addv(p, across, Math.cos(w) * (a + lump)), up, Math.sin(w) * (b + lump));
      ring.push(mesh.addv(...at, way, j / around));
    }
    made.push(ring);
  }
  for (let i = 0; i < rings; i++)
    for (let j = 0; j < around; j++)
      mesh.quad(made[i][j], made[i][j + 1], made[i + 1][j + 1], made[i + 1][j], texture);
  for (const [ring, t] of [
    [made[0], 0],
    [made[rings], 1],
  ]) {
    const middle = mesh.addv(...curveAt(points, t), way * t, 0.5);
    for (let j = 0; j < around; j++) mesh.tri(ring[j], ring[j + 1], middle, texture);
  }
}

/** A feather from `p` along `d`, its face towards `out`: a shaft with two vanes, bent down by `droop` at its end. */
export function feather(mesh, p, d, out, length, width, droop, texture) {
  const side = norm(cross(d, out));
  const n = 7;
  const rows = [];
  for (let i = 0; i <= n; i++) {
    const f = i / n;
    const half = 0.5 * width * Math.min(1, 0.35 + 3 * f) * Math.sqrt(Math.max(0, 1 - f ** 4));
    const middle = addv(addv(p, d, f * length), out, -droop * f * f);
    const low = scl(out, -0.18 * half);
    rows.push([
      mesh.addv(...addv(addv(middle, side, -half), low), f, 0),
      mesh.addv(...middle, f, 0.5),
      mesh.addv(...addv(addv(middle, side, half), low), f, 1),
    ]);
  }
  for (let i = 0; i < n; i++)
    for (const j of [0, 1])
      mesh.quad(rows[i][j], rows[i][j + 1], rows[i + 1][j + 1], rows[i + 1][j], texture);
}
