// node sky.mjs W out.exr : dusk HDR sky, lat-long in POV map_type 1 layout (u=0 +x, .25 +z); also light list
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import fs from 'node:fs';
import { fbm, noise, smooth, mix, clamp, writeEXR } from './exr.mjs';
const AZ = (-25 * Math.PI) / 180,
  EL = (4.2 * Math.PI) / 180;
export const sun = [Math.sin(AZ) * Math.cos(EL), Math.sin(EL), Math.cos(AZ) * Math.cos(EL)];
function base(dx, dy, dz) {
  const e = Math.max(0, dy);
  const c = clamp(dx * sun[0] + dy * sun[1] + dz * sun[2], -1, 1),
    ang = Math.acos(c);
  const azc = (dx * Math.sin(AZ) + dz * Math.cos(AZ)) / Math.max(1e-4, Math.hypot(dx, dz));
  const t = 0.5 + 0.5 * azc;
  const zen = [0.13, 0.24, 0.46],
    mid = [0.4, 0.5, 0.6];
  const hz = [mix(0.52, 1.55, t ** 2.2), mix(0.44, 0.98, t ** 2.2), mix(0.5, 0.56, t ** 2.2)];
  const a = Math.exp(-e * 9),
    b = Math.exp(-e * 2.6);
  const o = [0, 1, 2].map((i) => mix(mix(zen[i], mid[i] * mix(0.75, 1.25, t), b), hz[i], a));
  // belt of venus opposite
  const bv = Math.exp(-(((e - 0.13) / 0.07) ** 2)) * (1 - t) ** 2 * 0.16;
  o[0] += bv;
  o[1] += bv * 0.45;
  o[2] += bv * 0.55;
  // aureole
  const g1 = Math.exp(-ang * 3.2),
    g2 = Math.exp(-ang * 11),
    g3 = Math.exp(-ang * 45);
  o[0] += 1.1 * g1 + 3.2 * g2 + 14 * g3;
  o[1] += 0.52 * g1 + 1.7 * g2 + 8.5 * g3;
  o[2] += 0.12 * g1 + 0.55 * g2 + 3.2 * g3;
  return o;
}
function dens(x, y, z, lay) {
  if (lay === 0) {
    const cov = fbm(x * 0.00016 + 3.1, 0.5, z * 0.00016 - 1.7, 3);
    const n = fbm(x * 0.00075, y * 0.0016, z * 0.00075 + 4, 6, 0.54);
    const h = clamp(y / 700);
    return clamp((n * 1.25 + cov * 1.15 - 0.02 - 0.35 * Math.abs(h * 2 - 0.8)) * 2.6);
  }
  const n = fbm(x * 0.00006, 7.7, z * 0.00024, 6, 0.56) + 0.5 * fbm(x * 0.00002 + 9, 2.2, z * 0.00003, 2);
  return clamp((n - 0.02) * 1.3);
}
if (!isMainThread) {
  const { W, H, y0, y1 } = workerData;
  const out = new Float32Array(W * (y1 - y0) * 3);
  for (let j = y0; j < y1; j++) {
    const el = (0.5 - (j + 0.5) / H) * Math.PI;
    const dy = Math.sin(el),
      ch = Math.cos(el);
    for (let i = 0; i < W; i++) {
      const th = (2 * Math.PI * (i + 0.5)) / W;
      const dx = ch * Math.cos(th),
        dz = ch * Math.sin(th);
      let o;
      if (dy < 0) {
        const q = base(dx, 0.0, dz);
        o = q.map((v, k) => v * [0.16, 0.15, 0.13][k]);
      } else {
        o = base(dx, dy, dz);
        const ang = Math.acos(clamp(dx * sun[0] + dy * sun[1] + dz * sun[2], -1, 1));
        const sd = (ang * 180) / Math.PI;
        if (sd < 0.5) {
          const k = smooth(0.5, 0.27, sd);
          o[0] += 40000 * k;
          o[1] += 20500 * k;
          o[2] += 6800 * k;
        }
        const ye = dy + 0.012;
        // cirrus sheet 7 km
        {
          const t = 7000 / ye;
          const d = dens(dx * t, 0, dz * t, 1) * smooth(0.01, 0.1, dy);
          const fs = Math.exp(-ang * 2.2),
            fs2 = Math.exp(-ang * 7);
          const c = [0.62 + 1.5 * fs + 4 * fs2, 0.5 + 0.85 * fs + 2 * fs2, 0.52 + 0.38 * fs + 0.7 * fs2];
          const al = 1 - Math.exp(-d * 1.5);
          for (let k = 0; k < 3; k++) o[k] = mix(o[k], c[k], al * 0.75);
        }
        // stratocumulus slab 1500..2200 m
        if (dy > 0.004) {
          const N = 14;
          let T = 1,
            r = 0,
            gg = 0,
            b = 0;
          const jit = Math.abs((Math.sin(i * 12.9898 + j * 78.233) * 43758.5453) % 1);
          const haze = Math.exp(-1 / (ye * 22));
          for (let s = 0; s < N; s++) {
            const hy = (700 * (s + jit)) / N;
            const t = (1500 + hy) / ye;
            if (t > 90000) continue;
            const x = dx * t,
              z = dz * t;
            const d = dens(x, hy, z, 0);
            if (d <= 0) continue;
            // towards the sun: sun nearly horizontal
            let tau = 0;
            for (let q = 1; q <= 3; q++) {
              const L = 260 * q * q;
              tau += dens(x + sun[0] * L, hy + sun[1] * L - 8 * q, z + sun[2] * L, 0) * L * 0.9;
            }
            const lit = Math.exp(-tau * 0.0032) + 0.22 * Math.exp(-tau * 0.0007);
            const fw = 0.55 + 2.2 * Math.exp(-ang * 3) + 5 * Math.exp(-ang * 9);
            const a = 1 - Math.exp((((-d * 700) / N) * 0.01) / Math.max(0.35, Math.min(1, dy * 3)));
            const amb = 0.55 + (0.45 * hy) / 700;
            const cr = 1.55 * lit * fw + 0.2 * amb,
              cg = 0.8 * lit * fw + 0.235 * amb,
              cb = 0.36 * lit * fw + 0.33 * amb;
            r += T * a * cr;
            gg += T * a * cg;
            b += T * a * cb;
            T *= 1 - a;
            if (T < 0.01) break;
          }
          const hz = base(dx, 0.01, dz);
          const am = 1 - T;
          const cl = [r, gg, b];
          for (let k = 0; k < 3; k++) {
            const c = am > 1e-3 ? cl[k] / am : 0;
            const ch2 = mix(hz[k], c, haze);
            o[k] = mix(o[k], ch2, am);
          }
        }
      }
      out.set(o, 3 * ((j - y0) * W + i));
    }
  }
  parentPort.postMessage({ y0, y1, out });
} else if (process.argv[1].endsWith('sky.mjs')) {
  const W = +process.argv[2] || 1024,
    H = W / 2;
  const fo = process.argv[3] || 'sky.exr';
  const R = new Float32Array(W * H),
    G = new Float32Array(W * H),
    B = new Float32Array(W * H);
  let left = 8;
  const t0 = Date.now();
  const step = H / 8;
  let q = 0;
  const go = () => {
    if (q >= 8) return;
    const k = q++;
    const w = new Worker(new URL(import.meta.url), {
      workerData: { W, H, y0: k * step, y1: (k + 1) * step },
    });
    w.on('message', (m) => {
      for (let i = 0; i < W * (m.y1 - m.y0); i++) {
        const p = m.y0 * W + i;
        R[p] = m.out[3 * i];
        G[p] = m.out[3 * i + 1];
        B[p] = m.out[3 * i + 2];
      }
      left--;
      go();
      if (!left) {
        writeEXR(fo, W, H, { R, G, B });
        // light list: sample luminance hierarchical (median cut on upper hemisphere, sun disc excluded)
        const s = 256,
          hh = 128,
          L = [];
        const w = [],
          dir = [];
        for (let y = 0; y < hh / 2; y++)
          for (let x = 0; x < s; x++) {
            let r = 0,
              g2 = 0,
              b = 0,
              n = 0;
            const f = W / s;
            for (let jj = 0; jj < f; jj++)
              for (let ii = 0; ii < f; ii++) {
                const p = (Math.floor(y * f) + jj) * W + Math.floor(x * f) + ii;
                r += Math.min(R[p], 40);
                g2 += Math.min(G[p], 24);
                b += Math.min(B[p], 10);
                n++;
              }
            const el = (0.5 - (y + 0.5) / hh) * Math.PI;
            const sa = ((2 * Math.PI) / s) * (Math.PI / hh) * Math.cos(el);
            L.push({
              x,
              y,
              c: [(r / n) * sa, (g2 / n) * sa, (b / n) * sa],
              d: [
                Math.cos(el) * Math.cos((2 * Math.PI * (x + 0.5)) / s),
                Math.sin(el),
                Math.cos(el) * Math.sin((2 * Math.PI * (x + 0.5)) / s),
              ],
            });
          }
        const lists = {};
        for (const N of [10, 24, 48, 96]) {
          let regs = [L];
          while (regs.length < N) {
            let bi = 0,
              bv = -1;
            regs.forEach((r, i) => {
              const e = r.reduce((a, p) => a + p.c[0] + p.c[1] + p.c[2], 0);
              const ex =
                Math.max(...r.map((p) => p.x)) -
                Math.min(...r.map((p) => p.x)) +
                Math.max(...r.map((p) => p.y)) -
                Math.min(...r.map((p) => p.y));
              const v = e * Math.sqrt(ex);
              if (v > bv && r.length > 1) {
                bv = v;
                bi = i;
              }
            });
            const r = regs[bi];
            const xs = Math.max(...r.map((p) => p.x)) - Math.min(...r.map((p) => p.x)),
              ys = 2 * (Math.max(...r.map((p) => p.y)) - Math.min(...r.map((p) => p.y)));
            const k = xs >= ys ? 'x' : 'y';
            r.sort((a, b) => a[k] - b[k]);
            const tot = r.reduce((a, p) => a + p.c[1], 0);
            let acc = 0,
              m = 0;
            while (m < r.length - 1 && acc < tot / 2) acc += r[m++].c[1];
            m = clamp(m, 1, r.length - 1);
            regs.splice(bi, 1, r.slice(0, m), r.slice(m));
          }
          lists[N] = regs.map((r) => {
            const c = [0, 0, 0],
              d = [0, 0, 0];
            for (const p of r) {
              for (let k = 0; k < 3; k++) {
                c[k] += p.c[k];
                d[k] += p.d[k] * p.c[1];
              }
            }
            const l = Math.hypot(...d);
            return { d: d.map((v) => v / l), c };
          });
        }
        fs.writeFileSync(fo.replace('.exr', '.lights.json'), JSON.stringify({ sun, lists }));
        console.log('sky', W, H, (Date.now() - t0) / 1000, 's');
      }
    });
  };
  go();
  go();
}
