import { rng, noise, fbm, smooth, mix, clamp, Mesh as M0 } from './exr.mjs';
export class Mesh extends M0 {
  constructor() {
    super();
    this.uv = [];
  }
  addv(x, y, z, u = 0, v = 0) {
    this.uv.push(u, v);
    return this.add(x, y, z);
  }
  pov(tex, { d = 4, uv = false } = {}) {
    let s = super.pov(tex, d);
    if (uv) {
      const U = [];
      for (let i = 0; i < this.uv.length; i += 2)
        U.push(`<${this.uv[i].toFixed(3)},${this.uv[i + 1].toFixed(3)}>`);
      const t = `uv_vectors{${U.length},${U.join(',')}}\n`;
      s = s.replace(this.n ? 'normal_vectors{' : tex ? 'texture_list{' : 'face_indices{', (m) =>
        this.n ? m : t + m,
      );
      if (this.n) s = s.replace(tex ? 'texture_list{' : 'face_indices{', (m) => t + m);
    }
    return s;
  }
}
export const sub = (a, b) => [a[0] - b[0], a[1] - b[1], a[2] - b[2]],
  addv = (a, b, k = 1) => [a[0] + b[0] * k, a[1] + b[1] * k, a[2] + b[2] * k],
  cross = (a, b) => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]],
  norm = (a) => {
    const l = Math.hypot(...a) || 1;
    return a.map((v) => v / l);
  },
  scl = (a, k) => a.map((v) => v * k);
// a board/post: from p0 to p1, 'up' approx thickness dir, w width, t thickness; chamfered octagon section, wobble
export function board(m, R, p0, p1, up, w, t, tex, { wob = 0.004, ch = 0.006, seg = 0.35 } = {}) {
  const ax = norm(sub(p1, p0));
  let side = norm(cross(ax, up));
  up = norm(cross(side, ax));
  const L = Math.hypot(...sub(p1, p0));
  const n = Math.max(1, Math.min(24, Math.round(L / seg)));
  const a = w / 2,
    b = t / 2,
    c = Math.min(ch, a * 0.4, b * 0.4);
  const sec = [
    [-a + c, b],
    [a - c, b],
    [a, b - c],
    [a, -b + c],
    [a - c, -b],
    [-a + c, -b],
    [-a, -b + c],
    [-a, b - c],
  ];
  const per = [0];
  for (let i = 0; i < 8; i++) {
    const q = sec[i],
      r = sec[(i + 1) % 8];
    per.push(per[i] + Math.hypot(q[0] - r[0], q[1] - r[1]));
  }
  const uo = R() * 300,
    vo = R() * 300,
    no = R() * 100;
  const rings = [];
  const tw = (R() - 0.5) * wob * 3;
  for (let i = 0; i <= n; i++) {
    const f = i / n;
    const c0 = addv(p0, sub(p1, p0), f);
    const wy = wob * 2 * noise(no + f * L * 1.3, 1.5, 0),
      ws = wob * 2 * noise(no + f * L * 1.1, 7.5, 0);
    const r = [];
    for (let k = 0; k < 9; k++) {
      const [s, h] = sec[k % 8];
      const e = 1 + 0.02 * noise(no + k * 3, f * L * 3, 2);
      const p = addv(addv(c0, side, s * e + ws), up, h * e + wy + tw * s * f * 10);
      r.push(m.addv(...p, uo + f * L, vo + per[k]));
    }
    rings.push(r);
  }
  for (let i = 0; i < n; i++)
    for (let k = 0; k < 8; k++)
      m.quad(rings[i][k], rings[i][k + 1], rings[i + 1][k + 1], rings[i + 1][k], tex);
  for (const [e, p] of [
    [0, p0],
    [n, p1],
  ]) {
    const r = rings[e]
      .slice(0, 8)
      .map((q, k) =>
        m.addv(m.v[3 * q], m.v[3 * q + 1], m.v[3 * q + 2], uo + sec[k][0] * 0.3, vo + 50 + sec[k][1] * 4),
      );
    for (let k = 1; k < 7; k++) e ? m.tri(r[0], r[k], r[k + 1], tex) : m.tri(r[0], r[k + 1], r[k], tex);
  }
}
export function cyl(m, R, p0, p1, r0, r1, tex, { n = 10, seg = 0.25, lump = 0.04 } = {}) {
  const ax = norm(sub(p1, p0));
  const s = norm(cross(ax, Math.abs(ax[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0])),
    u = cross(s, ax);
  const L = Math.hypot(...sub(p1, p0));
  const k = Math.max(1, Math.min(20, Math.round(L / seg)));
  const uo = R() * 300,
    vo = R() * 300,
    o = R() * 99;
  const rings = [];
  for (let i = 0; i <= k; i++) {
    const f = i / k,
      r = mix(r0, r1, f),
      c = addv(p0, sub(p1, p0), f);
    const a = [];
    for (let j = 0; j <= n; j++) {
      const t = (2 * Math.PI * j) / n;
      const rr = r * (1 + lump * 2 * noise(o + Math.cos(t) * 1.5, Math.sin(t) * 1.5, f * L * 2));
      a.push(m.addv(...addv(addv(c, s, Math.cos(t) * rr), u, Math.sin(t) * rr), uo + f * L, vo + t * r));
    }
    rings.push(a);
  }
  for (let i = 0; i < k; i++)
    for (let j = 0; j < n; j++)
      m.quad(rings[i][j], rings[i][j + 1], rings[i + 1][j + 1], rings[i + 1][j], tex);
  const top = m.addv(...addv(p1, ax, r1 * 0.12), uo, vo);
  for (let j = 0; j < n; j++) {
    const a = rings[k][j],
      b = rings[k][j + 1];
    m.tri(
      m.addv(m.v[3 * a], m.v[3 * a + 1], m.v[3 * a + 2], uo, vo + j * 0.05),
      m.addv(m.v[3 * b], m.v[3 * b + 1], m.v[3 * b + 2], uo, vo + j * 0.05 + 0.05),
      top,
      tex,
    );
  }
}
// blade: curved, folded leaf
export function blade(m, p, dir, up, len, w, droop, seg, tex, twist = 0) {
  let d = norm(dir),
    pos = p;
  let side = norm(cross(d, up));
  const step = len / seg;
  let pl, pc, pr;
  for (let i = 0; i <= seg; i++) {
    const f = i / seg;
    const ww = w * (f < 0.15 ? 0.55 + 3 * f : 1) * Math.pow(1 - f, 0.7) * 0.5;
    const a = twist * f;
    const s = addv(scl(side, Math.cos(a)), cross(d, side), Math.sin(a));
    const nrm = cross(s, d);
    if (i === seg) {
      const t = m.addv(...pos, f, 0);
      m.tri(pl, pc, t, tex);
      m.tri(pc, pr, t, tex);
      break;
    }
    const l = m.addv(...addv(addv(pos, s, -ww), nrm, ww * 0.35), f, -1),
      c = m.addv(...pos, f, 0),
      r = m.addv(...addv(addv(pos, s, ww), nrm, ww * 0.35), f, 1);
    if (i) {
      m.quad(pl, pc, c, l, tex);
      m.quad(pc, pr, r, c, tex);
    }
    pl = l;
    pc = c;
    pr = r;
    pos = addv(pos, d, step);
    d = norm([d[0], d[1] - ((droop * step) / len) * (0.4 + 1.2 * f), d[2]]);
    side = norm(cross(d, up));
  }
}
export function reed(R, H) {
  const m = new Mesh();
  const lean = R() * 6.28,
    la = 0.05 + R() * 0.14;
  let p = [0, 0, 0],
    d = norm([Math.cos(lean) * la * 0.4, 1, Math.sin(lean) * la * 0.4]);
  const n = 12,
    pts = [[...p]];
  const dirs = [d];
  for (let i = 0; i < n; i++) {
    p = addv(p, d, H / n);
    d = norm([
      d[0] + ((Math.cos(lean) * la) / n) * 1.3 + (R() - 0.5) * 0.02,
      d[1],
      d[2] + ((Math.sin(lean) * la) / n) * 1.3 + (R() - 0.5) * 0.02,
    ]);
    pts.push(p);
    dirs.push(d);
  }
  const rr = 0.0036;
  let pr = null;
  for (let i = 0; i <= n; i++) {
    const r = rr * (1 - (0.6 * i) / n);
    const a = [];
    for (let k = 0; k < 5; k++) {
      const t = k * 1.2566;
      a.push(m.addv(pts[i][0] + Math.cos(t) * r, pts[i][1], pts[i][2] + Math.sin(t) * r, (i / n) * 2, t));
    }
    if (pr) for (let k = 0; k < 5; k++) m.quad(pr[k], pr[(k + 1) % 5], a[(k + 1) % 5], a[k], 0);
    pr = a;
  }
  let az = R() * 6.28;
  for (let i = 2; i < n - 1; i++) {
    az += 2.6 + R() * 0.9;
    if (R() < 0.14) continue;
    const up = [Math.cos(az), 0, Math.sin(az)];
    const wind = [0.5, 0, -0.12];
    const dd = norm([up[0] * 0.75 + wind[0], 0.95, up[2] * 0.75 + wind[2]]);
    blade(
      m,
      pts[i],
      dd,
      norm([up[0], 0.2, up[2]]).map((v, k) => (k === 1 ? 1 : v * 0.01)),
      (0.26 + R() * 0.24) * (i < 4 ? 0.8 : 1),
      0.013 + R() * 0.01,
      1.2 + R() * 1.5,
      8,
      1 + ((R() * 3) | 0),
      (R() - 0.5) * 1.6,
    );
  }
  // plume
  if (R() < 0.85) {
    const PL = 0.16 + R() * 0.12;
    const w = [0.45, 0.0, -0.1];
    for (let i = 0; i < 26; i++) {
      const f = i / 26;
      const base = addv(pts[n], dirs[n], (f - 0.25) * PL * 1.1);
      for (let k = 0; k < 7; k++) {
        const a = R() * 6.28;
        const dd = norm([Math.cos(a) * 0.5 + w[0] * (0.5 + f), 0.9, Math.sin(a) * 0.5 + w[2]]);
        const L = PL * (0.2 + 0.32 * R()) * (1 - f * 0.55);
        let q = [...base];
        let e = dd;
        let prev = null;
        for (let s = 0; s < 4; s++) {
          const q2 = addv(q, e, L / 4);
          const sd = scl(norm(cross(e, [R() - 0.5, R() - 0.5, R() - 0.5])), 0.0012 + 0.0016 * R());
          m.tri(
            m.addv(...addv(q, sd, -1)),
            m.addv(...addv(q, sd, 1)),
            m.addv(...addv(q2, [0, -0.002, 0], 1)),
            4,
          );
          if (s > 0)
            for (let z = 0; z < 2; z++) {
              const t = norm([R() - 0.5 + e[0], R() - 0.5 + e[1] * 0.8, R() - 0.5 + e[2]]);
              const g = addv(q, t, 0.01 + 0.008 * R());
              const s2 = scl(norm(cross(t, [R() - 0.5, R() - 0.5, R() - 0.5])), 0.0012);
              m.tri(m.addv(...addv(q, s2, -1)), m.addv(...addv(q, s2, 1)), m.addv(...g), 4);
            }
          q = q2;
          e = norm([e[0] + w[0] * 0.12, e[1] - 0.16, e[2]]);
        }
      }
    }
  }
  return m;
}
export function tuft(R, n, h, spread, wmul = 1, seg = 4, straw = 0.4) {
  const m = new Mesh();
  for (let i = 0; i < n; i++) {
    const a = R() * 6.28,
      r = Math.sqrt(R()) * spread;
    const b = R() * 6.28;
    const tl = 0.15 + R() * 0.75;
    const d = norm([Math.cos(b) * tl + 0.22, 1, Math.sin(b) * tl - 0.05]);
    blade(
      m,
      [Math.cos(a) * r, -0.04, Math.sin(a) * r],
      d,
      [Math.cos(b) * 0.02 + 0.001, 1, Math.sin(b) * 0.02],
      h * (0.45 + 0.75 * R()),
      (0.0028 + 0.003 * R()) * wmul,
      0.5 + R() * 1.7,
      seg,
      R() < straw ? 1 + ((R() * 2) | 0) : 0,
      (R() - 0.5) * 2.2,
    );
  }
  return m;
}
export function lavender(R) {
  const m = new Mesh();
  for (let i = 0; i < 9; i++) {
    const a = R() * 6.28;
    blade(
      m,
      [0, -0.01, 0],
      [Math.cos(a), 0.7 + R() * 0.5, Math.sin(a)],
      [0, 1, 0.01],
      0.1 + R() * 0.07,
      0.03 + 0.012 * R(),
      0.9,
      6,
      0,
      0.2,
    );
  }
  const ns = 4 + ((R() * 4) | 0);
  const stick = (p, q, r, tex) => {
    const d = norm(sub(q, p));
    const s = norm(cross(d, [0.3, 0.2, 0.9])),
      u = cross(s, d);
    const A = [],
      B = [];
    for (let k = 0; k < 3; k++) {
      const t = k * 2.094;
      A.push(m.addv(...addv(addv(p, s, Math.cos(t) * r), u, Math.sin(t) * r)));
      B.push(m.addv(...addv(addv(q, s, Math.cos(t) * r * 0.8), u, Math.sin(t) * r * 0.8)));
    }
    for (let k = 0; k < 3; k++) m.quad(A[k], A[(k + 1) % 3], B[(k + 1) % 3], B[k], tex);
  };
  const fl = (p, out) => {
    const n = 5,
      c = p;
    const nn = norm([out[0] + (R() - 0.5) * 0.8, 1, out[2] + (R() - 0.5) * 0.8]);
    const s = norm(cross(nn, [0.2, 0.1, 1])),
      u = cross(s, nn);
    const rr = 0.0032 + 0.0022 * R();
    const k0 = R() * 6;
    for (let k = 0; k < n; k++) {
      const t = k0 + k * 1.2566,
        t2 = t + 0.85;
      m.tri(
        m.addv(...c),
        m.addv(...addv(addv(addv(c, s, Math.cos(t) * rr), u, Math.sin(t) * rr), nn, 0.0016)),
        m.addv(...addv(addv(addv(c, s, Math.cos(t2) * rr), u, Math.sin(t2) * rr), nn, 0.0016)),
        2 + ((R() * 3) | 0),
      );
    }
    stick(addv(c, nn, -0.005), c, 0.0011, 5);
  };
  for (let i = 0; i < ns; i++) {
    const a = R() * 6.28;
    let p = [0, 0, 0],
      d = norm([Math.cos(a) * 0.25, 1, Math.sin(a) * 0.25]);
    const H = 0.2 + R() * 0.16;
    for (let s = 0; s < 6; s++) {
      const q = addv(p, d, H / 6);
      stick(p, q, 0.0016, 1);
      p = q;
      d = norm([d[0] + (R() - 0.5) * 0.12, d[1], d[2] + (R() - 0.5) * 0.12]);
      if (s >= 2) {
        for (let b = 0; b < 2 + (s > 3); b++) {
          const ba = R() * 6.28;
          let bd = norm([Math.cos(ba) * 0.8, 0.75, Math.sin(ba) * 0.8]);
          let bp = p;
          const bl = 0.05 + 0.06 * R();
          for (let t = 0; t < 3; t++) {
            const bq = addv(bp, bd, bl / 3);
            stick(bp, bq, 0.001, 1);
            bp = bq;
            bd = norm([bd[0] * 1.1, bd[1], bd[2] * 1.1]);
            for (let f = 0; f < 2; f++) {
              const sa = R() * 6.28;
              let sd = norm([bd[0] + Math.cos(sa) * 0.7, 0.75, bd[2] + Math.sin(sa) * 0.7]);
              const L = 0.018 + 0.026 * R();
              stick(bp, addv(bp, sd, L), 0.0006, 1);
              const cnt = (5 + R() * 4) | 0;
              for (let z = 0; z < cnt; z++)
                fl(
                  addv(addv(bp, sd, L * (0.2 + (0.8 * z) / cnt)), [
                    (R() - 0.5) * 0.005,
                    0.003,
                    (R() - 0.5) * 0.005,
                  ]),
                  sd,
                );
            }
          }
        }
      }
    }
  }
  return m;
}
