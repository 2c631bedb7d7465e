// Two cut-outs of the sky, made without a ray tracer: NAME moon or cloud -> NAME.exr with premultiplied alpha, scene-linear.
import { fbm, mix, noise, rng, smooth, writeEXR } from './exr.mjs';

/** The moon of the eleventh day: craters and dark plains on a sphere, lit from the right, its night side dark as the sky. */
function moon() {
  const size = 640;
  const planes = empty(size, size);
  const random = rng(12);
  const craters = Array.from({ length: 420 }, () => {
    const z = 2 * random() - 1;
    const turn = 2 * Math.PI * random();
    const flat = Math.sqrt(1 - z * z);
    const radius = 0.012 + 0.075 * random() ** 5;
    return { at: [flat * Math.cos(turn), flat * Math.sin(turn), z], radius, bright: random() < 0.06 };
  }).filter(({ at }) => at[2] > -0.1);
  // light of the eleventh day comes from the right and a little from the front
  const light = [Math.sin(0.85), 0.12, Math.cos(0.85)];
  const k = 1 / Math.hypot(...light);
  const radius = 0.5 * size - 6;
  const height = (x, y, z) => {
    let h = 0.012 * fbm(x * 7, y * 7, z * 7, 5);
    for (const c of craters) {
      const d = Math.hypot(x - c.at[0], y - c.at[1], z - c.at[2]) / c.radius;
      if (d < 1.6)
        h += c.radius * (d < 1 ? 0.16 * (d * d - 1) + 0.05 : 0.05 * Math.exp(-(((d - 1) / 0.25) ** 2)));
    }
    return h;
  };
  for (let py = 0; py < size; py++)
    for (let px = 0; px < size; px++) {
      const [x, y] = [(px - (size - 1) / 2) / radius, -(py - (size - 1) / 2) / radius];
      const r2 = x * x + y * y;
      const edge = (1 - Math.sqrt(r2)) * radius + 0.5;
      if (edge <= 0) continue;
      const z = Math.sqrt(Math.max(0, 1 - r2));
      const e = 0.004;
      const h = height(x, y, z);
      const n = [
        x - (height(x + e, y, z) - h) / e,
        y - (height(x, y + e, z) - h) / e,
        z - (height(x, y, z + e) - h) / e,
      ];
      const long = Math.hypot(...n);
      const facing = ((n[0] * light[0] + n[1] * light[1] + n[2] * light[2]) * k) / long;
      const plains = smooth(0.0, 0.22, fbm(x * 1.7 + 3, y * 1.7, z * 1.7, 4) + 0.12 * x + 0.1 * y);
      let albedo = mix(0.13, 0.065, plains) * (1 + 0.35 * fbm(x * 22, y * 22, z * 22, 4));
      for (const c of craters)
        if (c.bright) {
          const d = Math.hypot(x - c.at[0], y - c.at[1], z - c.at[2]) / c.radius;
          const rays = 0.5 + 0.5 * noise(8 * Math.atan2(y - c.at[1], x - c.at[0]), c.radius * 900, 0);
          albedo += 0.05 * Math.exp(-d / 3.2) * rays;
        }
      // dust scatters back, so that the disc hardly darkens to its rim; earthlight on the rest
      const lit = Math.max(0, facing) ** 0.6 * 4 + 0.006;
      put(
        planes,
        py * size + px,
        [albedo * lit * 1.04, albedo * lit, albedo * lit * 0.93],
        Math.min(1, edge),
      );
    }
  return { size: [size, size], planes };
}

/** A storm cloud with a flat foot, lit by an afternoon sun from the right; light is marched through its density. */
function cloud() {
  const [width, height] = [1200, 760];
  const planes = empty(width, height);
  // heaps of air that have grown together: middle, half widths
  const heaps = [
    [
      [0, -0.3, 0],
      [1.15, 0.3, 0.75],
    ],
    [
      [-0.42, -0.06, 0.05],
      [0.5, 0.42, 0.5],
    ],
    [
      [0.1, 0.1, 0],
      [0.56, 0.62, 0.55],
    ],
    [
      [0.52, -0.1, -0.1],
      [0.46, 0.36, 0.45],
    ],
    [
      [-0.12, 0.42, 0.05],
      [0.36, 0.34, 0.4],
    ],
    [
      [0.3, 0.36, -0.1],
      [0.34, 0.32, 0.36],
    ],
    [
      [-0.82, -0.28, 0],
      [0.34, 0.2, 0.35],
    ],
    [
      [0.92, -0.3, 0],
      [0.36, 0.18, 0.35],
    ],
  ];
  const density = (x, y, z) => {
    let shape = -1;
    for (const [m, r] of heaps) {
      const d = Math.hypot((x - m[0]) / r[0], (y - m[1]) / r[1], (z - m[2]) / r[2]);
      shape = Math.max(shape, (1 - d) * Math.min(...r) * 2.4);
    }
    if (shape < -0.5) return 0;
    const foot = smooth(-0.5, -0.4, y + 0.05 * noise(x * 3, 0, z * 3));
    return Math.max(0, Math.min(1, (shape + 0.42 * billow(x * 2.3 + 4, y * 2.3, z * 2.3)) * 3.4)) * foot;
  };
  const sun = [0.78, 0.5, -0.36];
  const warm = [0.92, 0.8, 0.64];
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const [x, y] = [(px - width / 2) / (height / 1.9), -(py - height / 2) / (height / 1.9) + 0.02];
      let through = 1;
      const sum = [0, 0, 0];
      const step = 0.035;
      for (let z = -0.95 + step * hash(px, py); z < 0.95 && through > 0.01; z += step) {
        const d = density(x, y, z);
        if (d <= 0.002) continue;
        let deep = 0;
        for (let s = 1, way = 0.03; s <= 6; s++, way *= 1.7)
          deep += density(x + sun[0] * way, y + sun[1] * way, z + sun[2] * way) * way * 0.7;
        // forward scattering lets some light through thick parts
        const direct = Math.exp(-15 * deep) + 0.2 * Math.exp(-4 * deep);
        const sky = 0.07 + 0.2 * smooth(-0.55, 0.6, y);
        const absorbed = 1 - Math.exp(-d * step * 26);
        for (let c = 0; c < 3; c++)
          sum[c] += through * absorbed * (warm[c] * direct + sky * [0.62, 0.72, 0.92][c]);
        through *= 1 - absorbed;
      }
      const border = Math.min(1, Math.min(px, py, width - 1 - px, height - 1 - py) / 40);
      if (through < 1)
        put(
          planes,
          py * width + px,
          sum.map((v) => v / (1 - through)),
          (1 - through) * smooth(0, 1, border),
        );
    }
  return { size: [width, height], planes };
}

/** Rounded lumps: the folded noise of cumulus. */
function billow(x, y, z) {
  let [sum, amount, size] = [0, 0.55, 1];
  for (let o = 0; o < 6; o++, amount *= 0.5, size *= 2.1)
    sum += amount * (1 - 2 * Math.abs(noise(x * size + 7 * o, y * size, z * size)));
  return sum - 0.45;
}

const hash = (x, y) => {
  const v = Math.sin(x * 12.9898 + y * 78.233) * 43758.5453;
  return v - Math.floor(v);
};

function empty(width, height) {
  return Object.fromEntries(['R', 'G', 'B', 'A'].map((c) => [c, new Float32Array(width * height)]));
}

function put(planes, at, rgb, alpha) {
  ['R', 'G', 'B'].forEach((c, k) => (planes[c][at] = rgb[k] * alpha));
  planes.A[at] = alpha;
}

const [, , name] = process.argv;
const { size, planes } = name === 'moon' ? moon() : cloud();
writeEXR(`${name}.exr`, ...size, planes);
