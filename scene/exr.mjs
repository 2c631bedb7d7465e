import zlib from 'node:zlib';
import fs from 'node:fs';
export function rng(seed) {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = s;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
// gradient noise 3D
const P = new Uint8Array(512);
{
  const r = rng(7);
  const a = [...Array(256).keys()];
  for (let i = 255; i > 0; i--) {
    const j = (r() * (i + 1)) | 0;
    [a[i], a[j]] = [a[j], a[i]];
  }
  for (let i = 0; i < 512; i++) P[i] = a[i & 255];
}
function g(h, x, y, z) {
  switch (h & 15) {
    case 0:
      return x + y;
    case 1:
      return -x + y;
    case 2:
      return x - y;
    case 3:
      return -x - y;
    case 4:
      return x + z;
    case 5:
      return -x + z;
    case 6:
      return x - z;
    case 7:
      return -x - z;
    case 8:
      return y + z;
    case 9:
      return -y + z;
    case 10:
      return y - z;
    case 11:
      return -y - z;
    case 12:
      return x + y;
    case 13:
      return -y + z;
    case 14:
      return -x + y;
    default:
      return -y - z;
  }
}
export function noise(x, y, z) {
  const fx = Math.floor(x),
    fy = Math.floor(y),
    fz = Math.floor(z);
  const X = fx & 255,
    Y = fy & 255,
    Z = fz & 255;
  x -= fx;
  y -= fy;
  z -= fz;
  const u = x * x * x * (x * (x * 6 - 15) + 10),
    v = y * y * y * (y * (y * 6 - 15) + 10),
    w = z * z * z * (z * (z * 6 - 15) + 10);
  const A = P[X] + Y,
    AA = P[A] + Z,
    AB = P[A + 1] + Z,
    B = P[X + 1] + Y,
    BA = P[B] + Z,
    BB = P[B + 1] + Z;
  const l = (t, a, b) => a + t * (b - a);
  return l(
    w,
    l(
      v,
      l(u, g(P[AA], x, y, z), g(P[BA], x - 1, y, z)),
      l(u, g(P[AB], x, y - 1, z), g(P[BB], x - 1, y - 1, z)),
    ),
    l(
      v,
      l(u, g(P[AA + 1], x, y, z - 1), g(P[BA + 1], x - 1, y, z - 1)),
      l(u, g(P[AB + 1], x, y - 1, z - 1), g(P[BB + 1], x - 1, y - 1, z - 1)),
    ),
  );
}
export function fbm(x, y, z, o = 5, gain = 0.5, lac = 2.03) {
  let a = 1,
    s = 0,
    n = 0;
  for (let i = 0; i < o; i++) {
    s += a * noise(x, y, z);
    n += a;
    a *= gain;
    x = x * lac + 17.3;
    y = y * lac + 5.1;
    z = z * lac + 9.7;
  }
  return s / n;
}
export const clamp = (x, a = 0, b = 1) => (x < a ? a : x > b ? b : x);
export const smooth = (a, b, x) => {
  x = clamp((x - a) / (b - a));
  return x * x * (3 - 2 * x);
};
export const mix = (a, b, t) => a + (b - a) * t;
// half
const f32 = new Float32Array(1),
  u32 = new Uint32Array(f32.buffer);
export function toHalf(v) {
  f32[0] = v;
  const x = u32[0];
  const s = (x >>> 16) & 0x8000;
  let e = ((x >>> 23) & 255) - 112;
  let m = x & 0x7fffff;
  if (e >= 31) return s | 0x7bff;
  if (e <= 0) {
    if (e < -10) return s;
    m |= 0x800000;
    const sh = 14 - e;
    return s | ((m + (1 << (sh - 1))) >> sh);
  }
  let h = (e << 10) | (m >> 13);
  if (m & 0x1000) h++;
  return s | h;
}
const HT = new Float32Array(65536);
for (let i = 0; i < 65536; i++) {
  const s = i & 0x8000 ? -1 : 1,
    e = (i >> 10) & 31,
    m = i & 1023;
  HT[i] = s * (e === 0 ? m * 2 ** -24 : e === 31 ? (m ? NaN : Infinity) : (1 + m / 1024) * 2 ** (e - 15));
}
export function readEXR(file) {
  const b = fs.readFileSync(file);
  let p = 8;
  const str = () => {
    let s = '';
    while (b[p]) s += String.fromCharCode(b[p++]);
    p++;
    return s;
  };
  let ch = [],
    comp = 0,
    dw;
  for (;;) {
    const n = str();
    if (!n) break;
    const t = str();
    const sz = b.readInt32LE(p);
    p += 4;
    const e = p + sz;
    if (n === 'channels') {
      while (b[p]) {
        const name = str();
        ch.push({ name, type: b.readInt32LE(p) });
        p += 16;
      }
    } else if (n === 'compression') comp = b[p];
    else if (n === 'dataWindow') dw = [0, 4, 8, 12].map((o) => b.readInt32LE(p + o));
    p = e;
  }
  const W = dw[2] - dw[0] + 1,
    H = dw[3] - dw[1] + 1;
  const lines = comp === 3 ? 16 : 1;
  const nb = Math.ceil(H / lines);
  const bpp = ch.reduce((a, c) => a + (c.type === 1 ? 2 : 4), 0);
  const out = { W, H, ch: {} };
  for (const c of ch) out.ch[c.name] = new Float32Array(W * H);
  for (let i = 0; i < nb; i++) {
    let o = Number(b.readBigUInt64LE(p + 8 * i));
    const y0 = b.readInt32LE(o) - dw[1];
    const sz = b.readInt32LE(o + 4);
    let d = b.subarray(o + 8, o + 8 + sz);
    const nl = Math.min(lines, H - y0);
    const full = nl * W * bpp;
    if (comp >= 2 && sz < full) {
      d = zlib.inflateSync(d);
      for (let k = 1; k < d.length; k++) d[k] = (d[k - 1] + d[k] - 128) & 255;
      const r = Buffer.alloc(d.length);
      const h = (d.length + 1) >> 1;
      for (let k = 0; k < d.length; k++) r[k] = k & 1 ? d[h + (k >> 1)] : d[k >> 1];
      d = r;
    }
    let q = 0;
    for (let l = 0; l < nl; l++)
      for (const c of ch) {
        const A = out.ch[c.name];
        const base = (y0 + l) * W;
        if (c.type === 1) {
          for (let x = 0; x < W; x++, q += 2) A[base + x] = HT[d[q] | (d[q + 1] << 8)];
        } else {
          for (let x = 0; x < W; x++, q += 4) A[base + x] = d.readFloatLE(q);
        }
      }
  }
  return out;
}
export function writeEXR(file, W, H, chs, { zip = true, float = [] } = {}) {
  const names = Object.keys(chs).sort();
  const parts = [];
  const a = (n, t, d) => {
    const l = Buffer.alloc(4);
    l.writeInt32LE(d.length);
    parts.push(Buffer.from(n + '\0' + t + '\0'), l, d);
  };
  const i32 = (...v) => {
    const r = Buffer.alloc(4 * v.length);
    v.forEach((x, i) => r.writeInt32LE(x, 4 * i));
    return r;
  };
  const fl = (...v) => {
    const r = Buffer.alloc(4 * v.length);
    v.forEach((x, i) => r.writeFloatLE(x, 4 * i));
    return r;
  };
  parts.push(Buffer.from([0x76, 0x2f, 0x31, 0x01, 2, 0, 0, 0]));
  a(
    'channels',
    'chlist',
    Buffer.concat([
      ...names.map((n) => Buffer.concat([Buffer.from(n + '\0'), i32(float.includes(n) ? 2 : 1, 0, 1, 1)])),
      Buffer.from([0]),
    ]),
  );
  a('compression', 'compression', Buffer.from([zip ? 3 : 0]));
  a('dataWindow', 'box2i', i32(0, 0, W - 1, H - 1));
  a('displayWindow', 'box2i', i32(0, 0, W - 1, H - 1));
  a('lineOrder', 'lineOrder', Buffer.from([0]));
  a('pixelAspectRatio', 'float', fl(1));
  a('screenWindowCenter', 'v2f', fl(0, 0));
  a('screenWindowWidth', 'float', fl(1));
  parts.push(Buffer.from([0]));
  const head = Buffer.concat(parts);
  const L = zip ? 16 : 1;
  const nb = Math.ceil(H / L);
  const bpp = names.reduce((s, n) => s + (float.includes(n) ? 4 : 2), 0);
  const blocks = [];
  for (let i = 0; i < nb; i++) {
    const y0 = i * L,
      nl = Math.min(L, H - y0);
    const d = Buffer.alloc(nl * W * bpp);
    let q = 0;
    for (let l = 0; l < nl; l++)
      for (const n of names) {
        const A = chs[n],
          o = (y0 + l) * W;
        if (float.includes(n)) {
          for (let x = 0; x < W; x++, q += 4) d.writeFloatLE(A[o + x], q);
        } else
          for (let x = 0; x < W; x++, q += 2) {
            const h = toHalf(A[o + x]);
            d[q] = h & 255;
            d[q + 1] = h >> 8;
          }
      }
    let c = d;
    if (zip) {
      const r = Buffer.alloc(d.length);
      const h = (d.length + 1) >> 1;
      for (let k = 0; k < d.length; k++) r[k & 1 ? h + (k >> 1) : k >> 1] = d[k];
      let pv = r[0];
      for (let k = 1; k < r.length; k++) {
        const t = r[k];
        r[k] = (t - pv + 384) & 255;
        pv = t;
      }
      c = zlib.deflateSync(r, { level: 6 });
      if (c.length >= d.length) c = d;
    }
    blocks.push(Buffer.concat([i32(y0, c.length), c]));
  }
  const tab = Buffer.alloc(8 * nb);
  let o = head.length + tab.length;
  blocks.forEach((b, i) => {
    tab.writeBigUInt64LE(BigInt(o), 8 * i);
    o += b.length;
  });
  fs.writeFileSync(file, Buffer.concat([head, tab, ...blocks]));
}
export function writeHDR(file, W, H, R, G, B) {
  // RGBE with RLE
  const out = [Buffer.from(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${H} +X ${W}\n`)];
  for (let y = 0; y < H; y++) {
    const c = [new Uint8Array(W), new Uint8Array(W), new Uint8Array(W), new Uint8Array(W)];
    for (let x = 0; x < W; x++) {
      const i = y * W + x,
        m = Math.max(R[i], G[i], B[i]);
      if (m > 1e-32) {
        const e = Math.floor(Math.log2(m)) + 1;
        const s = 256 / 2 ** e;
        c[0][x] = Math.min(255, R[i] * s);
        c[1][x] = Math.min(255, G[i] * s);
        c[2][x] = Math.min(255, B[i] * s);
        c[3][x] = e + 128;
      }
    }
    const row = [2, 2, W >> 8, W & 255];
    for (const a of c) {
      let x = 0;
      while (x < W) {
        let r = 1;
        while (x + r < W && r < 127 && a[x + r] === a[x]) r++;
        if (r >= 3) {
          row.push(128 + r, a[x]);
          x += r;
        } else {
          const s = x;
          let n = 0;
          while (x < W && n < 127) {
            if (x + 2 < W && a[x] === a[x + 1] && a[x] === a[x + 2]) break;
            x++;
            n++;
          }
          row.push(n);
          for (let k = s; k < s + n; k++) row.push(a[k]);
        }
      }
    }
    out.push(Buffer.from(row));
  }
  fs.writeFileSync(file, Buffer.concat(out));
}
const CRC = new Int32Array(256).map((_, n) => {
  for (let k = 0; k < 8; k++) n = n & 1 ? 0xedb88320 ^ (n >>> 1) : n >>> 1;
  return n;
});
export function writePNG(file, W, H, rgb, nc = 3) {
  const crc = (b) => {
    let c = -1;
    for (const x of b) c = CRC[(c ^ x) & 255] ^ (c >>> 8);
    return (c ^ -1) >>> 0;
  };
  const ck = (t, d) => {
    const l = Buffer.alloc(4);
    l.writeUInt32BE(d.length);
    const td = Buffer.concat([Buffer.from(t), d]);
    const e = Buffer.alloc(4);
    e.writeUInt32BE(crc(td));
    return Buffer.concat([l, td, e]);
  };
  const ih = Buffer.alloc(13);
  ih.writeUInt32BE(W, 0);
  ih.writeUInt32BE(H, 4);
  ih[8] = 8;
  ih[9] = nc === 4 ? 6 : 2;
  const raw = Buffer.alloc(H * (1 + W * nc));
  for (let y = 0; y < H; y++) {
    raw[y * (W * nc + 1)] = 0;
    Buffer.from(rgb.buffer, rgb.byteOffset + y * W * nc, W * nc).copy(raw, y * (W * nc + 1) + 1);
  }
  fs.writeFileSync(
    file,
    Buffer.concat([
      Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
      ck('IHDR', ih),
      ck('IDAT', zlib.deflateSync(raw, { level: 6 })),
      ck('IEND', Buffer.alloc(0)),
    ]),
  );
}
export function readPNG(file) {
  const b = fs.readFileSync(file);
  let p = 8,
    W,
    H,
    bd,
    ct;
  const id = [];
  while (p < b.length) {
    const l = b.readUInt32BE(p),
      t = b.toString('latin1', p + 4, p + 8);
    const d = b.subarray(p + 8, p + 8 + l);
    if (t === 'IHDR') {
      W = d.readUInt32BE(0);
      H = d.readUInt32BE(4);
      bd = d[8];
      ct = d[9];
    }
    if (t === 'IDAT') id.push(d);
    p += 12 + l;
  }
  const nc = { 0: 1, 2: 3, 4: 2, 6: 4 }[ct],
    bp = (nc * bd) / 8,
    r = zlib.inflateSync(Buffer.concat(id)),
    st = W * bp;
  const o = Buffer.alloc(st * H);
  for (let y = 0; y < H; y++) {
    const f = r[y * (st + 1)];
    for (let x = 0; x < st; x++) {
      const v = r[y * (st + 1) + 1 + x],
        a = x >= bp ? o[y * st + x - bp] : 0,
        u = y ? o[(y - 1) * st + x] : 0,
        c = x >= bp && y ? o[(y - 1) * st + x - bp] : 0;
      let q = 0;
      if (f === 1) q = a;
      else if (f === 2) q = u;
      else if (f === 3) q = (a + u) >> 1;
      else if (f === 4) {
        const pp = a + u - c,
          pa = Math.abs(pp - a),
          pb = Math.abs(pp - u),
          pc = Math.abs(pp - c);
        q = pa <= pb && pa <= pc ? a : pb <= pc ? u : c;
      }
      o[y * st + x] = v + q;
    }
  }
  const n = W * H * nc,
    A = new Float32Array(n);
  if (bd === 16) for (let i = 0; i < n; i++) A[i] = o.readUInt16BE(2 * i) / 65535;
  else for (let i = 0; i < n; i++) A[i] = o[i] / 255;
  return { W, H, nc, A };
}
// mesh writer
export class Mesh {
  constructor() {
    this.v = [];
    this.f = [];
    this.n = null;
    this.ft = [];
  }
  add(x, y, z) {
    this.v.push(x, y, z);
    return this.v.length / 3 - 1;
  }
  tri(a, b, c, t = 0) {
    this.f.push(a, b, c);
    this.ft.push(t);
  }
  quad(a, b, c, d, t = 0) {
    this.tri(a, b, c, t);
    this.tri(a, c, d, t);
  }
  smoothNormals() {
    const n = new Float32Array(this.v.length);
    const v = this.v;
    for (let i = 0; i < this.f.length; i += 3) {
      const [a, b, c] = [this.f[i] * 3, this.f[i + 1] * 3, this.f[i + 2] * 3];
      const ux = v[b] - v[a],
        uy = v[b + 1] - v[a + 1],
        uz = v[b + 2] - v[a + 2],
        wx = v[c] - v[a],
        wy = v[c + 1] - v[a + 1],
        wz = v[c + 2] - v[a + 2];
      const nx = uy * wz - uz * wy,
        ny = uz * wx - ux * wz,
        nz = ux * wy - uy * wx;
      for (const k of [a, b, c]) {
        n[k] += nx;
        n[k + 1] += ny;
        n[k + 2] += nz;
      }
    }
    for (let i = 0; i < n.length; i += 3) {
      const l = Math.hypot(n[i], n[i + 1], n[i + 2]) || 1;
      n[i] /= l;
      n[i + 1] /= l;
      n[i + 2] /= l;
    }
    this.n = n;
    return this;
  }
  pov(textures = null, d = 4) {
    const o = ['mesh2{vertex_vectors{', this.v.length / 3, ','];
    const V = [];
    const v = this.v;
    for (let i = 0; i < v.length; i += 3)
      V.push(`<${+v[i].toFixed(d)},${+v[i + 1].toFixed(d)},${+v[i + 2].toFixed(d)}>`);
    o.push(V.join(','), '}\n');
    if (this.n) {
      const N = [];
      for (let i = 0; i < v.length; i += 3)
        N.push(`<${+this.n[i].toFixed(3)},${+this.n[i + 1].toFixed(3)},${+this.n[i + 2].toFixed(3)}>`);
      o.push('normal_vectors{', v.length / 3, ',', N.join(','), '}\n');
    }
    if (textures)
      o.push('texture_list{', textures.length, ',', textures.map((t) => `texture{${t}}`).join(','), '}\n');
    const F = [];
    for (let i = 0; i < this.f.length; i += 3)
      F.push(`<${this.f[i]},${this.f[i + 1]},${this.f[i + 2]}>` + (textures ? ',' + this.ft[i / 3] : ''));
    o.push('face_indices{', this.f.length / 3, ',', F.join(','), '}');
    o.push('}\n');
    return o.join('');
  }
}
