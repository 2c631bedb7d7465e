// Writes inc/boat.inc: a clinker rowing boat, 3.6 m, with oars; keel along x, bow at +x.
import fs from 'node:fs';
import { rng } from './exr.mjs';
import { Mesh, addv, board, cyl, norm, sub } from './mesh.mjs';

const random = rng(98);
const LENGTH = 3.6;
const STRAKES = 9;
const STATIONS = 46;
const [PAINT, INSIDE, TOP, TIMBER, SPAR, IRON] = [0, 1, 2, 3, 4, 5];

const beam = (t) => 0.66 * Math.sin(Math.PI * (t * 0.86 + 0.12) ** 0.9) ** 0.62;
const sheer = (t) => 0.46 + 0.646 * (t - 0.42) ** 2;
const keel = (t) =>
  0.02 + 0.3 * Math.max(0, (t - 0.8) / 0.2) ** 2.3 + 0.05 * Math.max(0, (0.15 - t) / 0.15) ** 2;
const ahead = (t, v) => (t - 0.5) * LENGTH + (t > 0.9 ? v * (t - 0.9) * 0.9 : 0);

/** A point of the hull: t from stern to bow, v from keel to gunwale, `out` metres outwards. */
function hull(t, v, out) {
  const narrow = t > 0.8 ? Math.sqrt(Math.max(0, 1 - ((t - 0.8) / 0.2) ** 2.1)) : 1;
  const half = Math.max(0.012, beam(Math.min(t, 0.8)) * narrow);
  const [k, h] = [keel(t), sheer(t)];
  // the lowest plank meets its twin at the keel
  const wide = v <= 0 ? 0 : half * v ** 0.55 * (1 - 0.06 * v) + out;
  return [ahead(t, v), k + (h - k) * Math.max(0, v) ** 1.55, wide];
}

const boat = new Mesh();

for (const side of [-1, 1])
  for (let i = 0; i < STRAKES; i++) {
    const [v0, v1] = [i === 0 ? 0 : i / STRAKES - 0.02, (i + 1) / STRAKES];
    const [u0, w0] = [random() * 300, random() * 300];
    const rows = [[], [], [], []];
    for (let k = 0; k <= STATIONS; k++) {
      const t = k / STATIONS;
      const [p, q, u] = [hull(t, v0, 0.012), hull(t, v1, 0.003), u0 + t * LENGTH];
      const inner = (x, by) => Math.max(0, x - by);
      rows[0].push(boat.addv(p[0], p[1], side * p[2], u, w0));
      rows[1].push(boat.addv(q[0], q[1], side * q[2], u, w0 + 0.12));
      rows[2].push(boat.addv(p[0], p[1] + 0.003, side * inner(p[2], 0.016), u, w0 + 0.2));
      rows[3].push(boat.addv(q[0], q[1], side * inner(q[2], 0.012), u, w0 + 0.33));
    }
    const [a, b, c, e] = rows;
    const quad = (A, B, C, D, texture) =>
      side > 0 ? boat.quad(A, B, C, D, texture) : boat.quad(D, C, B, A, texture);
    const outer = i === STRAKES - 1 ? TOP : PAINT;
    for (let k = 0; k < STATIONS; k++) {
      quad(a[k], a[k + 1], b[k + 1], b[k], outer);
      quad(c[k + 1], c[k], e[k], e[k + 1], INSIDE);
      quad(a[k + 1], a[k], c[k], c[k + 1], outer);
    }
  }

// transom
const stern = Array.from({ length: 11 }, (_, i) => hull(0, Math.max(0.012, i / 10), 0));
for (const x of [-0.012, 0.022])
  for (let i = 0; i < 10; i++) {
    const [p, q] = [stern[i], stern[i + 1]];
    const corner = ([, y, z], side) => boat.addv(p[0] + x, y, side * z, y, side * z);
    boat.quad(corner(p, -1), corner(p, 1), corner(q, 1), corner(q, -1), TIMBER);
  }

/** Boards one after another through points. */
function rail(points, up, width, thickness, texture, wob) {
  points
    .slice(1)
    .forEach((p, i) => board(boat, random, points[i], p, up, width, thickness, texture, { seg: 1, wob }));
}

for (const side of [-1, 1]) {
  const along = (n, f) => Array.from({ length: n + 1 }, (_, k) => f(k));
  const at = ([x, y, z]) => [x, y + 0.004, side * z];
  rail(
    along(30, (k) => at(hull((k / 30) * 0.985, 1, 0.014))),
    [0, 1, 0],
    0.045,
    0.028,
    TIMBER,
    0.0006,
  );
  for (let k = 2; k < 20; k++) {
    const rib = along(8, (i) => at(hull(k / 21, Math.max(0.03, (i / 8) * 0.97), -0.018)));
    rail(rib, [1, 0, 0], 0.022, 0.02, INSIDE, 0.0004);
  }
  const [x, y, z] = hull(0.46, 1, 0);
  cyl(boat, random, [x, y + 0.02, side * z], [x, y + 0.1, side * z], 0.012, 0.012, IRON, { n: 8 });
  board(
    boat,
    random,
    [x - 0.12, y + 0.028, side * z],
    [x + 0.12, y + 0.028, side * z],
    [0, 1, 0],
    0.05,
    0.03,
    TIMBER,
  );
}

// keel and stem, as one line that the planks end on
const stem = [[-LENGTH / 2 - 0.01, -0.01, 0]];
for (let i = 0; i <= 12; i++)
  stem.push([ahead(0.3 + (0.7 * i) / 12, 0), keel(0.3 + (0.7 * i) / 12) - 0.01, 0]);
stem.push([ahead(1, 0.5) + 0.01, 0.5 * (keel(1) + sheer(1)), 0], [ahead(1, 1) + 0.02, sheer(1) + 0.07, 0]);
rail(stem, [0, 0, 1], 0.1, 0.05, TIMBER, 0.001);

for (const t of [0.07, 0.34, 0.6, 0.86]) {
  const [x, y, z] = hull(t, 0.78, -0.02);
  board(boat, random, [x, y, -z], [x, y, z], [0, 1, 0], 0.22, 0.03, SPAR, { seg: 0.2, wob: 0.003 });
}
for (const z of [-0.12, 0, 0.12])
  board(boat, random, [-1.15, 0.085, z], [0.72, 0.085, z], [0, 1, 0], 0.1, 0.016, SPAR, { wob: 0.003 });
for (const [side, off] of [
  [1, 0.12],
  [-1, -0.05],
]) {
  const [a, b] = [
    [-1.25, 0.44, side * 0.22 + off],
    [1.15, 0.52, side * 0.2 - off * 0.5],
  ];
  const along = norm(sub(b, a));
  cyl(boat, random, a, b, 0.022, 0.018, SPAR, { n: 12, lump: 0.02 });
  board(boat, random, addv(b, along, -0.05), addv(b, along, 0.42), [0, 1, 0.2], 0.13, 0.018, SPAR, {
    seg: 0.1,
  });
}

const names = Array.from({ length: 6 }, (_, i) => `T_Bt${i}`);
fs.mkdirSync('inc', { recursive: true });
fs.writeFileSync('inc/boat.inc', `#declare O_Boat=${boat.pov(names, { d: 5, uv: true })}\n`);
