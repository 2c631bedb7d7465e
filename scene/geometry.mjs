import fs from 'node:fs';
import { rng, noise, fbm, smooth, mix, clamp } from './exr.mjs';
import { Mesh, board, cyl, reed, tuft, lavender, blade, norm, addv, sub, cross, scl } from './mesh.mjs';
const R = rng(20240611);
const OUT = 'inc';
fs.mkdirSync(OUT, { recursive: true });
export const YW = -0.42;
// ---------- terrain
const segd = (x, z, a, b) => {
  const dx = b[0] - a[0],
    dz = b[1] - a[1];
  const t = clamp(((x - a[0]) * dx + (z - a[1]) * dz) / (dx * dx + dz * dz));
  return [Math.hypot(x - a[0] - dx * t, z - a[1] - dz * t), t];
};
const creeks = [
  [
    [
      [4.2, 9],
      [3.0, 6.8],
      [2.1, 5.2],
      [0.9, 4.2],
      [1.2, 3.0],
      [2.6, 2.2],
      [6, 1.6],
      [12, 1],
      [25, -2],
    ],
    0.55,
  ],
  [
    [
      [-6.5, 22],
      [-9, 26],
      [-8, 32],
      [-14, 40],
      [-18, 52],
      [-30, 64],
      [-28, 85],
      [-50, 120],
      [-60, 170],
      [-120, 260],
    ],
    2.2,
  ],
  [
    [
      [-12, 37],
      [-4, 44],
      [6, 52],
      [16, 60],
      [20, 80],
      [45, 110],
    ],
    1.4,
  ],
  [
    [
      [9, 13],
      [14, 11],
      [19, 13],
      [26, 10],
      [40, 14],
    ],
    1.2,
  ],
  [
    [
      [-14, 40],
      [-26, 36],
      [-40, 40],
    ],
    0.9,
  ],
  [
    [
      [-3.2, 9],
      [-5.5, 8],
      [-7, 9.5],
      [-10, 8.5],
      [-16, 10],
    ],
    0.5,
  ],
];
export function h(x, z) {
  const wx = x + 0.55 * noise(x * 0.6, 3, z * 0.6) + 0.9 * noise(x * 0.17, 9, z * 0.17),
    wz = z + 0.55 * noise(x * 0.6, 13, z * 0.6) + 0.9 * noise(x * 0.17, 19, z * 0.17);
  const pd = (Math.hypot((wx - 2.2) / 8.2, (wz - 14.4) / 6.2) - 1) * 6.2;
  let d = pd;
  let wid = 1.3,
    dep = 1.5;
  let best = smooth(1.0, -0.9, d) * 1.5;
  for (const [c, w] of creeks) {
    for (let i = 0; i < c.length - 1; i++) {
      const [dd, t] = segd(wx, wz, c[i], c[i + 1]);
      const k = smooth(w * 0.9 + 0.75, w * 0.25, dd) * (0.62 + (0.3 * w) / 1.5);
      if (k > best) best = k;
      if (dd - w < d) d = dd - w;
    }
  }
  const rough =
    0.075 * fbm(x * 0.45, 0, z * 0.45, 4) +
    0.03 * noise(x * 2.1, 4, z * 2.1) +
    0.016 * noise(x * 6.3, 4, z * 6.3) +
    0.01 * noise(x * 15, 4, z * 15);
  const bank = smooth(0, 0.4, best) * smooth(1.4, 0.7, best);
  const lump =
    bank *
    (0.06 * noise(x * 3.3, 8, z * 3.3) + 0.035 * noise(x * 9, 2, z * 9) + 0.02 * noise(x * 24, 2, z * 24));
  return { y: 0.02 + rough - best + lump, d, best };
}
function terrain() {
  const m = new Mesh();
  const na = 620,
    nr = 330;
  const rad = [];
  for (let j = 0; j <= nr; j++) {
    const f = j / nr;
    rad.push(0.35 * Math.pow(1600, f) * 1 + f * 2);
  }
  const ang = [];
  for (let i = 0; i <= na; i++) {
    const f = (i / na) * 2 - 1;
    ang.push(Math.PI * (0.24 * f + 0.76 * f * f * f * f * f));
  }
  const idx = [];
  for (const r of rad) {
    const row = [];
    for (const a of ang) {
      const x = Math.sin(a) * r,
        z = Math.cos(a) * r;
      const q = h(x, z);
      row.push(m.addv(x, q.y - (r > 150 ? (r - 150) * 0.0006 : 0), z));
    }
    idx.push(row);
  }
  for (let j = 0; j < nr; j++)
    for (let i = 0; i < na; i++) m.quad(idx[j][i], idx[j + 1][i], idx[j + 1][i + 1], idx[j][i + 1]);
  m.smoothNormals();
  return m.pov(null, { d: 3 });
}
const W = (n, s) => fs.writeFileSync(OUT + '/' + n, s);
W('terrain.inc', '#declare O_Terrain=' + terrain());
// ---------- mill
const A = 0.21,
  U = [Math.cos(A), 0, Math.sin(A)],
  N = [-Math.sin(A), 0, Math.cos(A)],
  O = [-0.9, 0, 20.6];
const P = (u, y, w) => [O[0] + U[0] * u + N[0] * w, y, O[2] + U[2] * u + N[2] * w];
const LEN = 10.6,
  DEP = 7.2,
  YB = -1.2,
  YE1 = 3.15,
  YE = 5.75,
  YR = 9.0;
const NB = 18; // brick textures
const bm = new Mesh();
function wallBricks(toP, nrm, len, y0, y1, holes, top) {
  let c = 0;
  for (let y = y0; y < y1; y += 0.075, c++) {
    const head = c % 2;
    /*flemish*/ let x = -(c % 2 ? 0.0 : 0.17);
    let k = c % 2;
    while (x < len) {
      const bl = k % 2 ? 0.1025 : 0.215;
      let xa = Math.max(0, x),
        xb = Math.min(len, x + bl);
      const ya = y,
        yb = y + 0.065;
      x += bl + 0.01;
      k++;
      if (xb - xa < 0.03) continue;
      const cx = (xa + xb) / 2,
        cy = (ya + yb) / 2;
      if (top && cy > top(cx)) continue;
      let bad = false;
      for (const q of holes)
        if (q.in(cx, cy)) {
          bad = true;
          break;
        }
      if (bad) continue;
      const lo = fbm(cx * 0.7, cy * 0.7, c * 0 + len, 3) * 0.9;
      let t = clamp(Math.floor((0.5 + lo * 0.7 + (R() - 0.5) * 0.95) * 14), 0, 13);
      if (R() < 0.05) t = 14 + ((R() * 4) | 0);
      const pr = 0.004 + (R() - 0.5) * 0.006 + (R() < 0.02 ? -0.012 : 0),
        tl = (R() - 0.5) * 0.005,
        tv = (R() - 0.5) * 0.003;
      const c2 = 0.004,
        j = () => (R() - 0.5) * 0.004;
      const f = [
        [xa + c2 + j(), ya + c2 + j()],
        [xb - c2 + j(), ya + c2 + j()],
        [xb - c2 + j(), yb - c2 + j()],
        [xa + c2 + j(), yb - c2 + j()],
      ].map(([a, b], i) => {
        const o = pr + (i === 0 || i === 3 ? tl : -tl) + (i < 2 ? tv : -tv);
        return bm.addv(...addv(toP(a, b), nrm, o));
      });
      const g = [
        [xa, ya],
        [xb, ya],
        [xb, yb],
        [xa, yb],
      ].map(([a, b]) => bm.addv(...addv(toP(a + j() * 0.5, b + j() * 0.5), nrm, -0.012)));
      bm.quad(f[0], f[1], f[2], f[3], t);
      for (let i = 0; i < 4; i++) bm.quad(g[i], g[(i + 1) % 4], f[(i + 1) % 4], f[i], t);
    }
  }
}
const mm = new Mesh(); // mortar backing
function backing(toP, nrm, len, y0, y1, holes, top, off = -0.006, tex = 0) {
  const xs = [0, len],
    ys = [y0, y1];
  for (const q of holes) {
    xs.push(q.x0, q.x1);
    ys.push(q.y0, q.y1);
    if (q.arch)
      for (let i = 0; i <= 12; i++) {
        xs.push(q.x0 + ((q.x1 - q.x0) * i) / 12);
        ys.push(q.y1 - ((q.y1 - q.yS) * i) / 12);
      }
  }
  if (top)
    for (let i = 0; i <= 40; i++) {
      xs.push((len * i) / 40);
      ys.push(y0 + ((y1 - y0) * i) / 40);
    }
  xs.sort((a, b) => a - b);
  ys.sort((a, b) => a - b);
  for (let i = 0; i < xs.length - 1; i++)
    for (let j = 0; j < ys.length - 1; j++) {
      if (xs[i + 1] - xs[i] < 1e-4 || ys[j + 1] - ys[j] < 1e-4) continue;
      const cx = (xs[i] + xs[i + 1]) / 2,
        cy = (ys[j] + ys[j + 1]) / 2;
      if (top && cy > top(cx)) continue;
      if (holes.some((q) => q.in(cx, cy))) continue;
      const q = [
        [xs[i], ys[j]],
        [xs[i + 1], ys[j]],
        [xs[i + 1], ys[j + 1]],
        [xs[i], ys[j + 1]],
      ].map(([a, b]) => mm.addv(...addv(toP(a, b), nrm, off)));
      mm.quad(...q, tex);
    }
}
const rect = (x0, y0, x1, y1) => ({ x0, y0, x1, y1, in: (x, y) => x > x0 && x < x1 && y > y0 && y < y1 });
const arch = (x0, y0, x1, yS, rise) => ({
  x0,
  y0,
  x1,
  y1: yS + rise,
  yS,
  arch: 1,
  in: (x, y) =>
    x > x0 &&
    x < x1 &&
    y > y0 &&
    (y < yS || y < yS + rise * Math.sqrt(Math.max(0, 1 - ((x - (x0 + x1) / 2) / ((x1 - x0) / 2)) ** 2))),
});
const winF = [rect(0.9, 1.25, 1.9, 2.6), rect(6.3, 1.25, 7.3, 2.6), rect(8.5, 1.25, 9.5, 2.6)];
const door = rect(2.75, 0.15, 3.75, 2.4);
const archF = arch(4.0, -1.3, 5.9, 0.15, 0.75);
const FP = (x, y) => P(x, y, 0),
  FN = scl(N, -1);
const GP = (x, y) => P(0, y, DEP - x),
  GN = scl(U, -1);
const winG = [rect(1.4, 1.2, 2.4, 2.6), rect(4.6, 1.2, 5.6, 2.6)];
wallBricks(FP, FN, LEN, YB, YE1, [...winF, door, archF]);
backing(FP, FN, LEN, YB, YE1, [...winF, door, archF]);
wallBricks(GP, GN, DEP, YB, YE1, winG);
backing(GP, GN, DEP, YB, YE1, winG);
// soldier arch bricks round arch & window heads
function ring(toP, nrm, cx, yS, rx, ry, n) {
  for (let i = 0; i < n; i++) {
    const a = (Math.PI * (i + 0.08)) / n,
      b = (Math.PI * (i + 0.92)) / n;
    const t = (R() * 14) | 0;
    const pr = 0.014 + (R() - 0.5) * 0.008;
    const q = [
      [a, 0],
      [b, 0],
      [b, 0.215],
      [a, 0.215],
    ].map(([t2, o]) => [cx + Math.cos(t2) * (rx + o), yS + Math.sin(t2) * (ry + o)]);
    const f = q.map(([x, y]) => bm.addv(...addv(toP(x, y), nrm, pr))),
      g = q.map(([x, y]) => bm.addv(...addv(toP(x, y), nrm, -0.2)));
    bm.quad(f[3], f[2], f[1], f[0], t);
    for (let k = 0; k < 4; k++) bm.quad(f[k], f[(k + 1) % 4], g[(k + 1) % 4], g[k], t);
  }
}
ring(FP, FN, 4.95, 0.15, 0.95, 0.75, 27);
function soldier(toP, nrm, w) {
  for (let x = w.x0 - 0.11; x < w.x1 + 0.09; x += 0.075) {
    const t = (R() * 14) | 0,
      pr = 0.01 + (R() - 0.5) * 0.006;
    const q = [
      [x, w.y1],
      [x + 0.065, w.y1],
      [x + 0.065, w.y1 + 0.215],
      [x, w.y1 + 0.215],
    ];
    const f = q.map(([a, b]) => bm.addv(...addv(toP(a, b), nrm, pr))),
      g = q.map(([a, b]) => bm.addv(...addv(toP(a, b), nrm, -0.15)));
    bm.quad(...f, t);
    for (let k = 0; k < 4; k++) bm.quad(g[k], g[(k + 1) % 4], f[(k + 1) % 4], f[k], t);
  }
  // reveals
  const q = [
    [w.x0, w.y0],
    [w.x1, w.y0],
    [w.x1, w.y1],
    [w.x0, w.y1],
  ];
  for (let k = 0; k < 4; k++) {
    const a = q[k],
      b = q[(k + 1) % 4];
    mm.quad(
      mm.addv(...addv(toP(...a), nrm, -0.004)),
      mm.addv(...addv(toP(...b), nrm, -0.004)),
      mm.addv(...addv(toP(...b), nrm, -0.14)),
      mm.addv(...addv(toP(...a), nrm, -0.14)),
      1,
    );
  }
}
[...winF, door].forEach((w) => soldier(FP, FN, w));
winG.forEach((w) => soldier(GP, GN, w));
// wood
const NW = 8;
const wm = new Mesh();
const wt = () => (R() * 5) | 0;
// upper weatherboards
const winU = [
  rect(1.0, 3.95, 1.9, 5.05),
  rect(3.1, 3.95, 4.0, 5.05),
  rect(7.0, 3.95, 7.9, 5.05),
  rect(8.8, 3.95, 9.7, 5.05),
];
const hatch = rect(4.95, 3.5, 6.05, 5.35);
function boards(toP, nrm, len, y0, y1, holes, topw) {
  const ux = norm(sub(toP(1, 0), toP(0, 0)));
  for (let y = y0; y < y1; y += 0.148) {
    const lim = topw ? topw(y + 0.07) : [0, len];
    let x = lim[0];
    const cuts = [];
    let end;
    while (x < lim[1] - 0.05) {
      end = Math.min(lim[1], x + 1.8 + R() * 2.4);
      if (lim[1] - end < 0.4) end = lim[1];
      cuts.push([x, end]);
      x = end;
    }
    for (const [a, b] of cuts) {
      let parts = [[a, b]];
      for (const q of holes)
        if (y + 0.16 > q.y0 && y < q.y1) {
          parts = parts.flatMap(([c, d]) => {
            const r = [];
            if (c < q.x0) r.push([c, Math.min(d, q.x0)]);
            if (d > q.x1) r.push([Math.max(c, q.x1), d]);
            return r;
          });
        }
      const t = wt();
      const sag = (R() - 0.5) * 0.012;
      for (const [c, d] of parts) {
        if (d - c < 0.04) continue;
        const p0 = addv(toP(c + 0.002, y + 0.08 + sag * 0.5), nrm, 0.02),
          p1 = addv(toP(d - 0.002, y + 0.08 - sag * 0.5), nrm, 0.02);
        board(wm, R, p0, p1, norm([nrm[0], 0.13, nrm[2]]), 0.168, 0.022, t, {
          wob: 0.004,
          ch: 0.004,
          seg: 0.5,
        });
      }
    }
  }
}
boards(FP, FN, LEN, YE1 + 0.05, YE + 0.05, [...winU, hatch]);
const winGable = [rect(1.3, 3.95, 2.2, 5.05), rect(5.0, 3.95, 5.9, 5.05), rect(3.1, 6.2, 4.1, 7.3)];
const slope = (YR - YE) / (DEP / 2);
boards(GP, GN, DEP, YE1 + 0.05, YR, winGable, (y) =>
  y < YE ? [0, DEP] : [(y - YE) / slope, DEP - (y - YE) / slope],
);
// timbers: sole plate, corner posts, barge boards, eaves
const beam = (a, b, up, w, t, k = 5, o = {}) =>
  board(wm, R, a, b, up, w, t, k, { wob: 0.006, ch: 0.012, ...o });
beam(addv(FP(-0.06, YE1), FN, 0.03), addv(FP(LEN + 0.06, YE1), FN, 0.03), FN, 0.2, 0.12);
beam(addv(GP(-0.06, YE1), GN, 0.03), addv(GP(DEP + 0.06, YE1), GN, 0.03), GN, 0.2, 0.12);
beam(addv(FP(0, YE1), FN, 0.03), addv(FP(0, YE + 0.2), FN, 0.03), FN, 0.2, 0.1);
beam(addv(FP(LEN, YE1), FN, 0.03), addv(FP(LEN, YE + 0.2), FN, 0.03), FN, 0.2, 0.1);
beam(P(-0.22, YR + 0.02, DEP / 2), P(-0.22, YE - 0.35, -0.42), [1, 0, 0], 0.26, 0.04);
beam(P(-0.22, YR + 0.02, DEP / 2), P(-0.22, YE - 0.35, DEP + 0.42), [1, 0, 0], 0.26, 0.04);
beam(P(-0.2, YE - 0.18, -0.36), P(LEN + 0.2, YE - 0.18, -0.36), [0, 0, 1], 0.14, 0.03); // fascia
for (let i = 0; i < 14; i++) {
  const u = 0.1 + i * 0.8;
  beam(P(u, YE + 0.05, 0.1), P(u, YE - 0.28, -0.4), [0, 1, 0], 0.08, 0.1, 6);
}
// architraves: whole boards stop up to a board's width short of an opening
const Rt = rng(23);
for (const [toP, nrm, openings] of [
  [FP, FN, [...winU, hatch]],
  [GP, GN, winGable],
])
  for (const w of openings)
    for (const y of [w.y0 - 0.07, w.y1 + 0.07])
      board(
        wm,
        Rt,
        addv(toP(w.x0 - 0.08, y), nrm, 0.045),
        addv(toP(w.x1 + 0.08, y), nrm, 0.045),
        nrm,
        0.2,
        0.04,
        5,
        {
          wob: 0.003,
          ch: 0.005,
          seg: 1,
        },
      );
// window frames
const gm = new Mesh();
function win(toP, nrm, w, nx, ny, tx = 7, dep = 0.09) {
  const f = (a, b, wd, t) =>
    board(wm, R, addv(toP(...a), nrm, -dep), addv(toP(...b), nrm, -dep), nrm, wd, t, tx, {
      wob: 0.001,
      ch: 0.003,
      seg: 1,
    });
  const e = 0.03;
  f([w.x0 + e, w.y0], [w.x0 + e, w.y1], 0.07, 0.07);
  f([w.x1 - e, w.y0], [w.x1 - e, w.y1], 0.07, 0.07);
  f([w.x0, w.y0 + e], [w.x1, w.y0 + e], 0.07, 0.07);
  f([w.x0, w.y1 - e], [w.x1, w.y1 - e], 0.07, 0.07);
  for (let i = 1; i < nx; i++) {
    const x = mix(w.x0, w.x1, i / nx);
    f([x, w.y0], [x, w.y1], i * 2 === nx ? 0.045 : 0.022, 0.03);
  }
  for (let i = 1; i < ny; i++) {
    const y = mix(w.y0, w.y1, i / ny);
    f([w.x0, y], [w.x1, y], 0.022, 0.03);
  }
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) {
      const t1 = (R() - 0.5) * 0.012,
        t2 = (R() - 0.5) * 0.012;
      const q = [
        [i, j, -1, -1],
        [i + 1, j, 1, -1],
        [i + 1, j + 1, 1, 1],
        [i, j + 1, -1, 1],
      ].map(([a, b, s, t]) =>
        gm.addv(
          ...addv(toP(mix(w.x0, w.x1, a / nx), mix(w.y0, w.y1, b / ny)), nrm, -dep - 0.004 + s * t1 + t * t2),
        ),
      );
      gm.quad(...q);
    }
  board(
    wm,
    R,
    addv(toP(w.x0 - 0.08, w.y0 - 0.03), nrm, 0.02),
    addv(toP(w.x1 + 0.08, w.y0 - 0.03), nrm, 0.02),
    [0, 1, 0],
    0.16,
    0.06,
    tx,
    { seg: 1 },
  );
}
winF.forEach((w) => win(FP, FN, w, 4, 4));
winG.forEach((w) => win(GP, GN, w, 4, 4));
winU.forEach((w) => win(FP, FN, w, 3, 3, 7, 0.0));
[rect(1.3, 3.95, 2.2, 5.05), rect(5.0, 3.95, 5.9, 5.05), rect(3.1, 6.2, 4.1, 7.3)].forEach((w) =>
  win(GP, GN, w, 3, 3, 7, 0.0),
);
// hatch doors & door (planks)
for (let x = hatch.x0; x < hatch.x1 - 0.02; x += 0.183)
  board(
    wm,
    R,
    addv(FP(x + 0.09, hatch.y0), FN, -0.02),
    addv(FP(x + 0.09, hatch.y1), FN, -0.02),
    FN,
    0.178,
    0.03,
    6,
    { wob: 0.003 },
  );
for (let x = door.x0; x < door.x1 - 0.02; x += 0.166)
  board(
    wm,
    R,
    addv(FP(x + 0.083, door.y0), FN, -0.1),
    addv(FP(x + 0.083, door.y1), FN, -0.1),
    FN,
    0.162,
    0.035,
    5,
    { wob: 0.003 },
  );
// hoist beam + lucam bracket + rope
beam(addv(FP(5.5, 5.55), FN, -0.3), addv(FP(5.5, 5.6), FN, 1.35), [0, 1, 0], 0.2, 0.22, 6);
beam(addv(FP(5.5, 4.75), FN, 0.03), addv(FP(5.5, 5.5), FN, 0.95), [0, 1, 0], 0.1, 0.12, 6);
cyl(wm, R, addv(FP(5.5, 2.2), FN, 1.2), addv(FP(5.5, 5.5), FN, 1.2), 0.012, 0.012, 3, { n: 6, seg: 0.5 });
cyl(wm, R, addv(FP(5.5, 2.05), FN, 1.2), addv(FP(5.5, 2.22), FN, 1.2), 0.05, 0.04, 6, { n: 8 });
// staging in front of door
for (let i = 0; i < 19; i++)
  board(
    wm,
    R,
    addv(FP(0.2 + i * 0.16, 0.1), FN, 0.02),
    addv(FP(0.2 + i * 0.16 + (R() - 0.5) * 0.02, 0.1), FN, 1.15 + (R() - 0.5) * 0.06),
    [0, 1, 0],
    0.15,
    0.04,
    wt(),
  );
for (const u of [0.35, 1.7, 3.1])
  cyl(wm, R, addv(FP(u, -1.4), FN, 1.05), addv(FP(u, 1.05 + R() * 0.06), FN, 1.05), 0.085, 0.075, 6);
beam(addv(FP(0.2, 0.03), FN, 1.05), addv(FP(3.3, 0.03), FN, 1.05), [0, 1, 0], 0.1, 0.16, 6);
beam(addv(FP(0.25, 0.95), FN, 1.05), addv(FP(3.2, 0.97), FN, 1.05), [0, 1, 0], 0.06, 0.07, 5);
beam(addv(FP(0.25, 0.55), FN, 1.05), addv(FP(3.2, 0.54), FN, 1.05), [0, 1, 0], 0.05, 0.05, 5);
// wheel in the arch (undershot), axis along U
{
  const c = addv(FP(4.95, -0.15), FN, -0.9);
  for (let i = 0; i < 16; i++) {
    const a = (i / 16) * 6.283;
    const d = addv(scl(FN, Math.cos(a)), [0, 1, 0], Math.sin(a));
    for (const s of [-0.75, 0.75])
      board(wm, R, addv(addv(c, U, s), d, 0.1), addv(addv(c, U, s), d, 1.0), U, 0.09, 0.06, 6);
    board(
      wm,
      R,
      addv(addv(c, U, -0.85), d, 0.88),
      addv(addv(c, U, 0.85), d, 0.88),
      cross(U, d),
      0.32,
      0.035,
      6,
    );
  }
  cyl(wm, R, addv(c, U, -1.2), addv(c, U, 1.2), 0.17, 0.17, 6);
}
// causeway wall & sluice: from mill front-left to left
const C0 = P(-0.1, 0, 0.25),
  C1 = [-15, 0, 21.8];
const CU = norm(sub(C1, C0)),
  CN = norm([CU[2], 0, -CU[0]]);
const CL = Math.hypot(...sub(C1, C0));
const cn = CN[2] > 0 ? scl(CN, -1) : CN;
const CP = (x, y) => addv([C0[0], y, C0[2]], CU, x);
const sl = rect(1.9, -1.3, 4.3, 0.52);
wallBricks(CP, cn, CL, YB, 0.42, [sl]);
backing(CP, cn, CL, YB, 0.46, [sl]);
// coping stones
const cm = new Mesh();
for (let x = 0; x < CL;) {
  const l = 0.5 + R() * 0.5;
  if (!(x + l > 1.7 && x < 4.5))
    board(
      cm,
      R,
      addv(CP(x + 0.01, 0.47), cn, -0.28 + R() * 0.02),
      addv(CP(x + l - 0.01, 0.47 + (R() - 0.5) * 0.015), cn, -0.28 + R() * 0.02),
      [0, 1, 0],
      0.72,
      0.11,
      0,
      { ch: 0.02, wob: 0.006, seg: 0.15 },
    );
  x += l;
}
// sluice: posts, head beam, gate planks, racks
for (const x of [1.95, 3.1, 4.25]) {
  beam(addv(CP(x, -1.3), cn, 0.12), addv(CP(x, 2.25), cn, 0.12), cn, 0.22, 0.22, 6);
}
beam(addv(CP(1.6, 2.1), cn, 0.12), addv(CP(4.6, 2.1), cn, 0.12), [0, 1, 0], 0.24, 0.24, 6);
beam(addv(CP(1.7, 0.62), cn, 0.16), addv(CP(4.5, 0.62), cn, 0.16), [0, 1, 0], 0.2, 0.2, 6);
for (const [x0, lift] of [
  [2.08, 0.0],
  [3.22, 0.32],
]) {
  for (let i = 0; i < 6; i++)
    board(
      wm,
      R,
      addv(CP(x0, -1.1 + lift + i * 0.21), cn, 0.06),
      addv(CP(x0 + 0.92, -1.1 + lift + i * 0.21), cn, 0.06),
      cn,
      0.205,
      0.06,
      i < 4 ? 4 : 6,
      { wob: 0.004 },
    );
  board(
    wm,
    R,
    addv(CP(x0 + 0.46, -0.3 + lift), cn, 0.14),
    addv(CP(x0 + 0.46, 2.75 + lift), cn, 0.14),
    cn,
    0.11,
    0.07,
    5,
  );
  for (let i = 0; i < 14; i++)
    board(
      wm,
      R,
      addv(CP(x0 + 0.4, 1.1 + i * 0.09 + lift), cn, 0.2),
      addv(CP(x0 + 0.52, 1.1 + i * 0.09 + lift), cn, 0.2),
      [0, 1, 0],
      0.04,
      0.03,
      6,
      { seg: 1 },
    );
}
// walkway planks on the sluice & handrail
for (let i = 0; i < 22; i++)
  board(
    wm,
    R,
    addv(CP(1.5 + i * 0.145, 0.78), cn, -0.1),
    addv(CP(1.5 + i * 0.145, 0.78 + (R() - 0.5) * 0.01), cn, -1.0),
    [0, 1, 0],
    0.135,
    0.035,
    wt(),
  );
// boardwalk: curve
const bw = (t) => {
  const z = mix(1.2, 19.6, t);
  const x = -2.15 - 1.7 * Math.sin(t * 2.2) * 0.9 - 1.5 * t * t;
  return [x, z];
};
const nails = [];
const posts = [];
{
  let s = 0,
    prev = bw(0);
  const pts = [];
  for (let i = 1; i <= 2000; i++) {
    const q = bw(i / 2000);
    s += Math.hypot(q[0] - prev[0], q[1] - prev[1]);
    pts.push([s, q, norm([q[0] - prev[0], 0, q[1] - prev[1]])]);
    prev = q;
  }
  let k = 0,
    np = 0.4;
  for (const [ss, q, d] of pts) {
    const sd = [d[2], 0, -d[0]];
    const yy = 0.4 + 0.02 * Math.sin(ss * 0.9);
    if (ss > k * 0.152) {
      k++;
      if (R() < 0.015) continue;
      const w = 0.135 + R() * 0.012;
      const off = (R() - 0.5) * 0.06;
      const a = addv([q[0], yy + (R() - 0.5) * 0.008, q[1]], sd, -0.62 + off),
        b = addv([q[0], yy + (R() - 0.5) * 0.012, q[1]], sd, 0.62 + off);
      const rt = (R() - 0.5) * 0.02;
      board(wm, R, addv(a, d, rt), addv(b, d, -rt), [0, 1, 0], w, 0.038, wt(), {
        wob: 0.004,
        seg: 0.2,
        ch: 0.005,
      });
      for (const s of [-0.46, 0.46])
        for (const e of [-0.035, 0.035]) {
          const c = addv(addv([q[0], yy + 0.0215, q[1]], sd, s), d, e);
          nails.push(c);
        }
    }
    if (ss > np) {
      np += 2.1;
      for (const s of [-0.58, 0.58]) {
        const hh = s < 0 || R() < 0.35 ? yy + 0.95 + R() * 0.12 : yy + 0.12 + R() * 0.1;
        const c = addv([q[0], 0, q[1]], sd, s * 1.14);
        cyl(
          wm,
          R,
          [c[0] + (R() - 0.5) * 0.05, -1, c[2]],
          [c[0] + (R() - 0.5) * 0.09, hh, c[2] + (R() - 0.5) * 0.06],
          0.062 + R() * 0.02,
          0.055 + R() * 0.012,
          5 + ((R() * 2) | 0),
          { n: 14, seg: 0.1, lump: 0.1 },
        );
        if (s < 0) posts.push([c[0], hh - 0.12, c[2]]);
      }
      board(
        wm,
        R,
        addv([q[0], yy - 0.09, q[1]], sd, -0.7),
        addv([q[0], yy - 0.09, q[1]], sd, 0.7),
        [0, 1, 0],
        0.1,
        0.13,
        6,
      );
    }
  }
  for (const s of [-0.45, 0.45]) {
    for (let i = 0; i + 120 < pts.length; i += 120) {
      const a = pts[i],
        b = pts[Math.min(pts.length - 1, i + 120)];
      const f = ([ss, q, d]) =>
        addv([q[0], 0.4 + 0.02 * Math.sin(ss * 0.9) - 0.085, q[1]], [d[2], 0, -d[0]], s);
      board(wm, R, f(a), f(b), [0, 1, 0], 0.07, 0.12, 6);
    }
  }
}
// handrail: rope sagging between left posts
for (let i = 0; i + 1 < posts.length; i++) {
  const a = posts[i],
    b = posts[i + 1];
  let p = a;
  for (let k = 1; k <= 8; k++) {
    const f = k / 8;
    const q = [mix(a[0], b[0], f), mix(a[1], b[1], f) - 0.16 * 4 * f * (1 - f), mix(a[2], b[2], f)];
    cyl(wm, R, p, q, 0.011, 0.011, 3, { n: 6, seg: 1 });
    p = q;
  }
}
// mooring piles in pool
for (const [x, z, hh] of [
  [-1.9, 15.8, 0.75],
  [6.6, 17.2, 0.95],
  [7.7, 16.1, 0.4],
  [-0.4, 18.6, 0.5],
])
  cyl(wm, R, [x, -2, z], [x + 0.06, hh, z - 0.03], 0.11, 0.09, 6, { n: 16, seg: 0.12, lump: 0.09 });
W(
  'wood.inc',
  '#declare O_Wood=' +
    wm.pov(
      [...Array(NW).keys()].map((i) => 'T_Wood' + i),
      { d: 4, uv: true },
    ),
);
W(
  'brick.inc',
  '#declare O_Brick=' +
    bm.pov(
      [...Array(NB).keys()].map((i) => 'T_Brick' + i),
      { d: 4 },
    ) +
    '#declare O_Mortar=' +
    mm.pov(['T_Mortar', 'T_Reveal'], { d: 4 }) +
    '#declare O_Cope=' +
    cm.pov(['T_Cope'], { d: 4, uv: true }),
);
W('glass.inc', '#declare O_Glass=' + gm.pov(null));
W(
  'nails.inc',
  '#declare O_Nails=union{' +
    nails.map((n) => `sphere{<${n.map((v) => v.toFixed(3))}>,.006 scale 1}`).join('') +
    '}',
);
// roof: pantiles on both slopes; tile template
{
  const tm = new Mesh();
  const w = 0.24,
    l = 0.36;
  const rows = [];
  const n = 10;
  for (const [y, z] of [
    [0, 0],
    [0.0, 0.18],
    [0, l],
  ]) {
    const r = [],
      r2 = [];
    for (let i = 0; i <= n; i++) {
      const f = i / n;
      const yy = 0.03 * Math.sin(f * Math.PI * 2 - 0.6) + (f > 0.5 ? 0.006 : 0);
      r.push(tm.addv((f - 0.5) * w * 1.08, yy + 0.012 * (1 - z / l), z));
      r2.push(tm.addv((f - 0.5) * w * 1.08, yy + 0.012 * (1 - z / l) - 0.014, z));
    }
    rows.push([r, r2]);
  }
  for (let j = 0; j < 2; j++)
    for (let i = 0; i < n; i++)
      tm.quad(rows[j][0][i], rows[j][0][i + 1], rows[j + 1][0][i + 1], rows[j + 1][0][i]);
  for (let i = 0; i < n; i++) tm.quad(rows[0][1][i], rows[0][1][i + 1], rows[0][0][i + 1], rows[0][0][i]);
  let s = '#declare O_Tile=' + tm.pov(null) + '#declare O_Roof=union{';
  const SL = Math.hypot(DEP / 2, YR - YE);
  for (const side of [0, 1]) {
    const nr = [0, DEP / 2, 0];
    const up = norm(sub(P(0, YR, DEP / 2), P(0, YE, side ? DEP : 0)));
    const ax = side ? scl(U, -1) : U;
    const nn = norm(cross(up, ax));
    const rowsN = Math.floor((SL + 0.45) / 0.265),
      cols = Math.floor((LEN + 0.5) / w);
    for (let j = 0; j < rowsN; j++)
      for (let i = 0; i < cols; i++) {
        if (R() < 0.002) continue;
        const base = addv(
          addv(
            addv(P(side ? LEN + 0.22 : -0.22, YR, DEP / 2), up, -(SL + 0.42) + j * 0.265),
            ax,
            (i + 0.5) * w + (R() - 0.5) * 0.008,
          ),
          nn,
          // high enough that the sag of the ridge never sinks a tile into the boarding below
          0.13 +
            0.02 * Math.sin(i * 0.13 + j * 0.09) * 1.2 -
            0.05 * Math.sin((Math.PI * i) / cols) * Math.sin((Math.PI * j) / rowsN) * 1.3,
        );
        const a = (R() - 0.5) * 0.05,
          b = (R() - 0.5) * 0.03 + 0.03;
        const X = norm(addv(ax, nn, (R() - 0.5) * 0.05 + 0)),
          Z = norm(addv(addv(up, ax, a), nn, -b)),
          Y = norm(cross(Z, X));
        const lo = fbm(i * 0.12, j * 0.12, side * 9, 3);
        const t = clamp(Math.floor((0.5 + lo * 0.8 + (R() - 0.5) * 0.9) * 8), 0, 7);
        s += `object{O_Tile matrix<${[...X, ...Y, ...Z, ...base].map((v) => +v.toFixed(4))}> texture{T_Tile${t} translate <${(R() * 9).toFixed(2)},${(R() * 9).toFixed(2)},0>}}\n`;
      }
  }
  s += '}\n#declare O_Ridge=union{';
  for (let i = 0; i < (LEN + 0.44) / 0.42; i++) {
    const a = P(-0.22 + i * 0.42, YR + 0.13 + (R() - 0.5) * 0.015, DEP / 2),
      b = P(-0.22 + (i + 1) * 0.42 + 0.02, YR + 0.13 + (R() - 0.5) * 0.015, DEP / 2);
    s += `cone{<${a}>,${(0.13 + R() * 0.008).toFixed(3)},<${b}>,.122 texture{T_Tile${(R() * 8) | 0} scale .6}}`;
  }
  s += '}\n';
  const rb = (a, b, c, d) => `polygon{5,<${a}>,<${b}>,<${c}>,<${d}>,<${a}> texture{T_Dark}}`;
  s +=
    '#declare O_RoofB=union{' +
    rb(
      P(-0.1, YE - 0.0, 0),
      P(LEN + 0.1, YE, 0),
      P(LEN + 0.1, YR - 0.02, DEP / 2),
      P(-0.1, YR - 0.02, DEP / 2),
    ) +
    rb(
      P(-0.1, YE, DEP),
      P(LEN + 0.1, YE, DEP),
      P(LEN + 0.1, YR - 0.02, DEP / 2),
      P(-0.1, YR - 0.02, DEP / 2),
    ) +
    '}\n';
  // interior shell: rooms
  const bx = (u0, y0, w0, u1, y1, w1) => {
    const c = [
      [u0, y0, w0],
      [u1, y0, w0],
      [u1, y0, w1],
      [u0, y0, w1],
      [u0, y1, w0],
      [u1, y1, w0],
      [u1, y1, w1],
      [u0, y1, w1],
    ].map((q) => P(...q));
    const m = new Mesh();
    c.forEach((q) => m.addv(...q));
    return m;
  };
  const room = (u0, y0, w0, u1, y1, w1, t, open = [1, 1]) => {
    const m = bx(u0, y0, w0, u1, y1, w1);
    m.quad(0, 1, 2, 3);
    m.quad(4, 5, 6, 7);
    m.quad(2, 3, 7, 6);
    m.quad(1, 2, 6, 5);
    if (!open[1]) m.quad(0, 3, 7, 4);
    if (!open[0]) m.quad(0, 1, 5, 4);
    return `object{${m.pov(null)} texture{${t}}}`;
  };
  const solid = (u0, y0, w0, u1, y1, w1, t) => {
    const m = bx(u0, y0, w0, u1, y1, w1);
    m.quad(0, 1, 2, 3);
    m.quad(4, 5, 6, 7);
    m.quad(0, 1, 5, 4);
    m.quad(3, 2, 6, 7);
    m.quad(1, 2, 6, 5);
    m.quad(0, 3, 7, 4);
    return `object{${m.pov(null)} texture{${t}}}`;
  };
  s +=
    '#declare O_Rooms=union{' +
    room(0.1, 0.2, 0.12, LEN - 0.1, YE1, DEP - 0.1, 'T_Room') +
    room(0.1, YE1 + 0.12, 0.1, LEN - 0.1, YE, DEP - 0.1, 'T_Room2') +
    room(0.5, YE + 0.05, 2, LEN - 0.1, YR - 1.4, DEP - 2, 'T_Room2');
  // furniture silhouettes, beams, sacks, shelves, millstones casing
  for (let i = 0; i < 9; i++)
    s += solid(0.6 + i * 1.1, YE1 - 0.28, 0.2, 0.75 + i * 1.1, YE1 - 0.01, DEP - 0.2, 'T_Tim');
  for (let i = 0; i < 9; i++)
    s += solid(0.6 + i * 1.1, YE - 0.25, 0.2, 0.72 + i * 1.1, YE - 0.01, DEP - 0.2, 'T_Tim');
  s +=
    solid(6.0, 0.2, 1.2, 7.6, 1.0 + 0.02, 1.9, 'T_Tim') +
    solid(8.2, 0.2, 2.6, 9.9, 2.2, 3.0, 'T_Tim') +
    solid(1.2, 0.2, 3.5, 1.8, 2.3, 4.3, 'T_Tim') +
    solid(1.0, YE1 + 0.1, 1.5, 1.9, YE1 + 1.15, 2.2, 'T_Sack') +
    solid(3.2, YE1 + 0.1, 2.5, 4.3, YE1 + 1.0, 3.3, 'T_Sack') +
    solid(8.7, YE1 + 0.1, 0.9, 9.3, YE1 + 1.2, 1.5, 'T_Sack');
  for (let k = 0; k < 6; k++)
    s += `sphere{0,.19 scale<1,1.5,1> translate<${P(6.2 + k * 0.25, 1.25 + 0.1 * R(), 1.5)}> texture{T_Sack}}`;
  for (let k = 0; k < 8; k++)
    s += `cylinder{<${P(8.3 + k * 0.19, 1.62, 2.5)}>,<${P(8.3 + k * 0.19, 1.62 + 0.1 + 0.18 * R(), 2.5)}>,.06 texture{T_Tim}}`;
  // wheel chamber (dark)
  s += `object{${(() => {
    const m = bx(3.9, -1.3, 0.05, 6.0, 1.1, 3.5);
    m.quad(2, 3, 7, 6);
    m.quad(1, 2, 6, 5);
    m.quad(0, 3, 7, 4);
    m.quad(4, 5, 6, 7);
    return m.pov(null);
  })()} texture{T_Cham}}`;
  s += '}\n';
  const L = {
    L1: P(6.8, 2.45, 1.9),
    L2: P(1.5, 2.5, 2.1),
    L5: P(9, 2.4, 2.0),
    L3: P(2.6, 5.2, 2.1),
    L4: P(8.2, 5.15, 1.9),
    L6: P(0.9, 6.9, 3.6),
    LG: P(0.8, 2.4, 3.6),
  };
  for (const [k, v] of Object.entries(L)) s += `#declare ${k}=<${v.map((x) => x.toFixed(3))}>;\n`;
  const lp = posts[Math.min(posts.length - 1, 2)];
  const lan = CP(1.75, 2.62);
  s += `#declare PLan=<${addv(lan, cn, 0.25)}>;\n#declare PLan2=<${addv(FP(4.25, 2.75), FN, 0.35)}>;#declare FNv=<${FN}>;#declare Uv=<${U}>;#declare PLan2w=<${FP(4.25, 2.75)}>;\n`;
  W('build.inc', s);
}
// sluice falling water strip & foam position
{
  const a = CP(3.22, 0),
    b = CP(4.14, 0);
  W('fall.inc', `#declare FA=<${a}>;#declare FB=<${b}>;#declare FNc=<${cn}>;\n`);
}
// ---------- vegetation
{
  let s = '';
  const NR = 9;
  for (let i = 0; i < NR; i++) {
    s +=
      `#declare O_Reed${i}=` +
      reed(R, 1.35 + R() * 0.75).pov(['T_Stem', 'T_Leaf0', 'T_Leaf1', 'T_Leaf2', 'T_Plume'], {
        d: 4,
        uv: true,
      });
  }
  const GT = 8;
  for (let i = 0; i < GT; i++)
    s +=
      `#declare O_Tuft${i}=` +
      tuft(R, 54, 0.21 + 0.06 * R(), 0.12, 1, 4, 0.2 + 0.45 * R()).pov(['T_Grass0', 'T_Grass1', 'T_Grass2'], {
        uv: true,
      });
  for (let i = 0; i < 5; i++)
    s +=
      `#declare O_Far${i}=` +
      tuft(R, 150, 0.26, 0.55, 3.2, 2, 0.3 + 0.4 * R()).pov(['T_Grass0', 'T_Grass1', 'T_Grass2'], {
        uv: true,
      });
  for (let i = 0; i < 5; i++)
    s +=
      `#declare O_Lav${i}=` +
      lavender(R).pov(['T_LavLeaf', 'T_LavStem', 'T_Fl0', 'T_Fl1', 'T_Fl2', 'T_LavStem'], { uv: true });
  W('veg.inc', s);
  const inst = (n, x, y, z, sc, rot, sy = 1) => {
    const c = Math.cos(rot) * sc,
      q = Math.sin(rot) * sc;
    return `object{${n} matrix<${c.toFixed(3)},0,${(-q).toFixed(3)},0,${(sc * sy).toFixed(3)},0,${q.toFixed(3)},0,${c.toFixed(3)},${x.toFixed(3)},${y.toFixed(3)},${z.toFixed(3)}>}\n`;
  };
  let o = '';
  let cnt = {};
  const put = (n, ...a) => {
    o += inst(n, ...a);
    cnt[n.replace(/\d/, '')] = (cnt[n.replace(/\d/, '')] || 0) + 1;
  };
  const bwx = (z) => {
    const t = clamp((z - 1.2) / 18.4);
    return bw(t)[0];
  };
  const onwalk = (x, z) => z < 19.8 && z > 0 && Math.abs(x - bwx(z)) < 0.85;
  const inMill = (x, z) => {
    const dx = x - O[0],
      dz = z - O[2];
    const u = dx * U[0] + dz * U[2],
      w = dx * N[0] + dz * N[2];
    return u > -0.3 && u < LEN + 0.3 && w > -0.4 && w < DEP + 0.3;
  };
  const path = (x, z) => false;
  // grass by rings
  const scatter = (r0, r1, den, fn, amax = 1.05) => {
    const n = Math.round(den * (r1 * r1 - r0 * r0) * amax);
    for (let i = 0; i < n; i++) {
      const r = Math.sqrt(mix(r0 * r0, r1 * r1, R())),
        a = (R() * 2 - 1) * amax;
      fn(Math.sin(a) * r, Math.cos(a) * r, r);
    }
  };
  const grass = (big) => (x, z, r) => {
    const q = h(x, z);
    const k = fbm(x * 0.22 + 7, 2, z * 0.22, 4);
    const zone = smooth(-0.3, 0.16, k);
    if (q.best > 0.3 || q.y < YW + 0.25) return;
    if (inMill(x, z)) return;
    if (!big && r < 1.1) return;
    const thin = onwalk(x, z);
    if (q.best > 0.12 && R() < q.best * 2.2) return;
    const sc = (big ? 1 : 1) * mix(0.6, 1.55, zone) * (0.6 + 0.7 * R()) * (thin ? 0.45 : 1);
    if (zone < 0.2 && R() < 0.35) return;
    put(
      (big ? 'O_Far' : 'O_Tuft') + ((R() * (big ? 5 : 8)) | 0),
      x,
      q.y,
      z,
      sc * (big ? clamp(r / 45, 0.7, 2.2) : 1),
      R() * 6.28,
      big ? clamp(35 / r, 0.5, 1.1) : 1,
    );
  };
  scatter(1.0, 4.5, 130, grass(0));
  scatter(4.5, 9, 48, grass(0));
  scatter(9, 17, 20, grass(0));
  scatter(14, 45, 3.0, grass(1));
  scatter(45, 120, 0.55, grass(1));
  scatter(120, 320, 0.06, grass(1));
  // reeds: near right clump, behind-left, far bank beds
  const reedbed = (cx, cz, rx, rz, n, sc = 1) => {
    for (let i = 0; i < n; i++) {
      const a = R() * 6.28,
        r = Math.sqrt(R());
      const x = cx + Math.cos(a) * rx * r,
        z = cz + Math.sin(a) * rz * r;
      const q = h(x, z);
      if (q.y < YW - 0.45 || inMill(x, z) || onwalk(x, z)) continue;
      put(
        'O_Reed' + ((R() * 9) | 0),
        x,
        q.y - 0.03,
        z,
        sc * (0.72 + 0.45 * R()),
        R() * 6.28 * 0.0 + (R() - 0.5) * 1.6,
      );
    }
  };
  reedbed(2.35, 3.3, 0.75, 0.9, 46, 0.9);
  reedbed(1.75, 2.25, 0.35, 0.35, 7, 0.72);
  reedbed(4.2, 5.6, 1.3, 1.0, 60, 0.95);
  reedbed(-3.9, 4.6, 0.5, 1.2, 26, 0.85);
  reedbed(-5.5, 8.5, 1.2, 2.5, 90, 0.85);
  reedbed(11.5, 16, 2.0, 4.5, 320, 1.0);
  reedbed(-8.5, 15, 2.2, 3.5, 260, 0.95);
  reedbed(14, 24, 4, 4, 300, 1.05);
  reedbed(-16, 26, 5, 5, 300, 1);
  reedbed(-26, 48, 9, 6, 350, 1.1);
  reedbed(20, 44, 8, 5, 300, 1.1);
  reedbed(8.0, 9.2, 1.4, 0.7, 60, 0.8);
  // beyond the view of the single picture: sparser, for the panorama
  const Ra = rng(71);
  const beside = (r0, r1, density, name, kinds, scale) => {
    const n = Math.round(density * (r1 * r1 - r0 * r0) * 1.0);
    for (let i = 0; i < n; i++) {
      const r = Math.sqrt(mix(r0 * r0, r1 * r1, Ra()));
      const a = (1.04 + 1.0 * Ra()) * (Ra() < 0.5 ? -1 : 1);
      const x = Math.sin(a) * r;
      const z = Math.cos(a) * r;
      const q = h(x, z);
      const lush = smooth(-0.3, 0.16, fbm(x * 0.22 + 7, 2, z * 0.22, 4));
      const size = scale * mix(0.6, 1.5, lush) * (0.6 + 0.7 * Ra());
      const turn = Ra() * 6.28;
      const kind = (Ra() * kinds) | 0;
      if (q.best > 0.15 || q.y < YW + 0.25 || (lush < 0.2 && i % 3 === 0)) continue;
      put(name + kind, x, q.y, z, size * clamp(r / 45, 1, 2.2), turn, clamp(35 / r, 0.5, 1.1));
    }
  };
  beside(1.6, 5, 70, 'O_Tuft', 8, 1);
  beside(5, 10, 28, 'O_Tuft', 8, 1.05);
  beside(8, 18, 7, 'O_Far', 5, 0.7);
  beside(18, 45, 2.4, 'O_Far', 5, 1);
  beside(45, 120, 0.45, 'O_Far', 5, 1);
  beside(120, 300, 0.05, 'O_Far', 5, 1);
  const clump = (cx, cz, rx, rz, n, name, kinds, scale) => {
    for (let i = 0; i < n; i++) {
      const x = cx + (Ra() * 2 - 1) * rx;
      const z = cz + (Ra() * 2 - 1) * rz;
      const size = scale * (0.72 + 0.45 * Ra());
      const kind = (Ra() * kinds) | 0;
      const q = h(x, z);
      if (q.y < YW - 0.3) continue;
      put(name + kind, x, q.y - 0.02, z, size, (Ra() - 0.5) * 1.6);
    }
  };
  clump(9, 2.2, 2, 1.2, 130, 'O_Reed', 9, 0.95);
  clump(17, -1, 4, 3, 220, 'O_Reed', 9, 1.05);
  clump(-8, 0.5, 1.6, 1.4, 120, 'O_Reed', 9, 0.9);
  clump(-20, 3, 5, 4, 260, 'O_Reed', 9, 1.05);
  clump(3.4, 0.9, 0.6, 0.6, 16, 'O_Lav', 5, 0.8);
  clump(-3.2, 0.6, 0.8, 0.7, 20, 'O_Lav', 5, 0.8);
  clump(6, 0, 1.6, 2, 34, 'O_Lav', 5, 0.85);
  // lavender
  const lav = (cx, cz, rx, rz, n) => {
    for (let i = 0; i < n; i++) {
      const x = cx + (R() * 2 - 1) * rx,
        z = cz + (R() * 2 - 1) * rz;
      const q = h(x, z);
      if (q.best > 0.12 || onwalk(x, z)) continue;
      put('O_Lav' + ((R() * 5) | 0), x, q.y - 0.01, z, 0.62 + 0.42 * R(), R() * 6.28);
    }
  };
  lav(-0.75, 2.5, 0.4, 0.5, 5);
  lav(0.35, 2.35, 0.3, 0.3, 3);
  lav(-0.7, 4.2, 1.0, 1.0, 13);
  lav(1.2, 3.3, 0.4, 0.4, 3);
  lav(-0.9, 6.4, 1.1, 1.3, 22);
  lav(-3.6, 7, 1, 2, 30);
  lav(-5, 11, 2, 3, 60);
  lav(7, 7.5, 2, 1, 40);
  lav(-10, 20, 4, 4, 60);
  // wrack, debris and samphire-like sprigs on the mud
  W('inst.inc', o);
  console.log(cnt);
}
// far land silhouettes
{
  let s = '#declare O_Far=union{';
  for (const [dist, amp, seed, tex] of [
    [1100, 5, 3, 'T_Far0'],
    [2100, 16, 8, 'T_Far1'],
    [3800, 42, 15, 'T_Far2'],
  ]) {
    const m = new Mesh();
    const n = 1600;
    for (let i = 0; i <= n; i++) {
      const a = (i / n) * 2 * Math.PI;
      const lo = smooth(-0.25, 0.35, fbm(Math.cos(a) * 2 + seed, Math.sin(a) * 2, seed, 3));
      const hgt =
        amp * lo * (0.35 + 0.65 * Math.abs(fbm(Math.cos(a) * 14, Math.sin(a) * 14, seed, 4)) * 1.6) +
        amp * 0.22 * lo * Math.abs(fbm(Math.cos(a) * 160, Math.sin(a) * 160, seed, 4)) * 2;
      m.addv(Math.sin(a) * dist, -4, Math.cos(a) * dist);
      m.addv(Math.sin(a) * dist, hgt - 1, Math.cos(a) * dist);
      if (i) m.quad(2 * i - 2, 2 * i - 1, 2 * i + 1, 2 * i);
    }
    s += `object{${m.pov(null, { d: 2 })} texture{${tex}}}`;
  }
  W('far.inc', s + '}\n');
}
const J = JSON.parse(fs.readFileSync('sky.lights.json'));
let s = '';
for (const N of Object.keys(J.lists)) {
  s += `#if(NDOME=${N})\n`;
  for (const l of J.lists[N])
    s += `light_source{<${l.d.map((v) => (v * 2000).toFixed(1))}> color rgb <${l.c.map((v) => (v / Math.PI).toFixed(5))}>*KSKY parallel point_at 0}\n`;
  s += '#end\n';
}
W('dome.inc', s);
W('sunv.inc', `#declare SunDir=<${J.sun}>;\n`);
