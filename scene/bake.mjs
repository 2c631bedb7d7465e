// Adds air and glare to each rendered light pass and stores it compactly.
// node bake.mjs NAME OUT FIELD PASSES… : NAME.{PASSES,z}.exr -> OUT.{PASSES,z}.{0…}.exr, scene-linear half float, cut into
// strips from top to bottom so that no file of the repository is large. FIELD is `flat`, `round` for longitude and latitude, or `near` for a
// scene without air between. With `plate` the one pass is NAME.exr itself, its light multiplied by its alpha; it has no depth.
// The depth keeps its own coding: metres along the ray are −600·ln(1 − f), f beyond 0.9985 is sky.
// Both effects are linear in the light, so the passes still add up to the whole scene.
import { readEXR, writeEXR } from './exr.mjs';

const [, , name, out, field, ...passes] = process.argv;
const AIR_IN = { sky: 1 }; // how bright the sky, whose light the air scatters, is in a pass
const ROUND_FIELD = [(200 * Math.PI) / 180, (60 * Math.PI) / 180];
const FOG_METRES = 600; // depth pass: f = 1 - exp(-d / 600)
const HALF_VIEW = (31.5 * Math.PI) / 180;
const CAMERA_HEIGHT = 1.52;
const GLARE = [
  [0.0016, 0.03],
  [0.006, 0.008],
  [0.022, 0.003],
  [0.07, 0.0016],
]; // radius as a share of the width, weight
const CHANNELS = ['R', 'G', 'B'];
const STRIP_ROWS = 280;

const depth = field === 'plate' ? undefined : readEXR(`${name}.z.exr`);
const { W, H } = depth ?? readEXR(`${name}.exr`);
const metres = depth?.ch.G.map((f) => (f > 0.9985 ? 1e4 : -FOG_METRES * Math.log(1 - f)));

/** Colour of the air by azimuth: the sky just above the horizon, its sun clipped. */
const sky = readEXR('sky1k.exr');
const air = Array.from({ length: sky.W }, (_, i) => {
  const sum = [0, 0, 0];
  let n = 0;
  for (let dy = 1; dy < 12; dy++)
    for (let dx = -14; dx <= 14; dx++, n++) {
      const at = ((sky.H >> 1) - dy) * sky.W + ((i + dx + sky.W) % sky.W);
      CHANNELS.forEach((c, k) => (sum[k] += Math.min(sky.ch[c][at], [5, 3, 1.6][k])));
    }
  return sum.map((v, k) => (v / n) * [0.86, 0.84, 0.9][k]);
});

/** Koschmieder: what is left of the light, and the azimuth its air comes from. */
const focal = 1 / Math.tan(HALF_VIEW);
const veil = new Float32Array(W * H);
const column = new Int32Array(W * H);
for (let y = 0; y < H && (field === 'flat' || field === 'round'); y++)
  for (let x = 0; x < W; x++) {
    const p = y * W + x;
    const z = metres[p];
    if (z > 5000) continue;
    const across = (2 * (x + 0.5)) / W - 1;
    const down = 1 - (2 * (y + 0.5)) / H;
    const round = field === 'round';
    const azimuth = round ? (across * ROUND_FIELD[0]) / 2 : Math.atan(across / focal) + 0.015;
    const turn = (Math.PI / 2 - azimuth) / (2 * Math.PI);
    column[p] = ((Math.round(turn * sky.W) % sky.W) + sky.W) % sky.W;
    const rise = round ? Math.tan((down * ROUND_FIELD[1]) / 2) : ((down / focal) * H) / W - 0.052;
    const height = CAMERA_HEIGHT + rise * z;
    veil[p] = 1 - Math.exp(-z * (1 / 1500 + Math.exp(-Math.max(0, height + 0.3) / 2.6) / 1000));
  }

/** Three box blurs of one radius, borders continued. */
function blur(plane, r) {
  let source = plane;
  for (let pass = 0; pass < 3; pass++) {
    const rows = new Float32Array(W * H);
    for (let y = 0; y < H; y++) {
      const q = y * W;
      let sum = 0;
      for (let x = -r; x <= r; x++) sum += source[q + Math.min(W - 1, Math.max(0, x))];
      for (let x = 0; x < W; x++) {
        rows[q + x] = sum / (2 * r + 1);
        sum += source[q + Math.min(W - 1, x + r + 1)] - source[q + Math.max(0, x - r)];
      }
    }
    const both = new Float32Array(W * H);
    for (let x = 0; x < W; x++) {
      let sum = 0;
      for (let y = -r; y <= r; y++) sum += rows[Math.min(H - 1, Math.max(0, y)) * W + x];
      for (let y = 0; y < H; y++) {
        both[y * W + x] = sum / (2 * r + 1);
        sum += rows[Math.min(H - 1, y + r + 1) * W + x] - rows[Math.max(0, y - r) * W + x];
      }
    }
    source = both;
  }
  return source;
}

/** Rounds to 8 bits of mantissa (0.2 %, far below the shot noise of any frame), the large round view to 7, so that the files pack well. */
const bits = new Uint32Array(1);
const value = new Float32Array(bits.buffer);
const DROPPED = field === 'round' ? 16 : 15;
function round(v) {
  value[0] = v;
  bits[0] = (bits[0] + 2 ** (DROPPED - 1)) & -(2 ** DROPPED);
  return value[0];
}

if (field === 'plate') {
  const { ch } = readEXR(`${name}.exr`);
  // glare of the widest kind would end at the plate's border
  const glared = glare(
    CHANNELS.map((c) => ch[c]),
    GLARE.slice(0, 2),
    2100 / W,
  );
  store(
    [...glared, ch.A].map((plane) => plane.map(round)),
    `${out}`,
  );
}
for (const pass of passes) {
  const { ch } = readEXR(`${name}.${pass}.exr`);
  const planes = CHANNELS.map((c, k) =>
    ch[c].map(
      (v, p) => v * (1 - veil[p]) + (veil[p] > 0 ? air[column[p]][k] * veil[p] * (AIR_IN[pass] ?? 0) : 0),
    ),
  );
  store(
    glare(planes, GLARE, 1).map((plane) => plane.map(round)),
    `${out}.${pass}`,
  );
}
if (depth) store([depth.ch.G.map(round)], `${out}.z`);

/** What a lens scatters of bright things, added to planes. @param grow by how much the radii are those of a wider picture */
function glare(planes, kinds, grow) {
  return planes.map((plane) => {
    const capped = plane.map((v) => Math.min(v, 3000));
    const sum = plane.slice();
    for (const [radius, weight] of kinds) {
      const spread = blur(capped, Math.max(1, Math.round(radius * W * grow)));
      for (let p = 0; p < sum.length; p++) sum[p] = sum[p] * (1 - weight) + spread[p] * weight;
    }
    return sum;
  });
}

/** Cuts planes into strips and writes them. */
function store(planes, file) {
  for (let k = 0, top = 0; top < H; k++, top += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, H - top);
    const cut = planes.map((plane) => plane.subarray(top * W, (top + rows) * W));
    const [R, G, B, A] = cut.length === 1 ? [cut[0], cut[0], cut[0]] : cut;
    writeEXR(`${file}.${k}.exr`, W, rows, { R, G, B, ...(A ? { A } : {}) });
  }
}
