import { type PlaceGrid } from '../kernels/warpKernel';
import { type EncodedImage } from './encodedImage';
import { LANCZOS, LANCZOS_PHASES, LANCZOS_TAPS } from './lanczos';

const OUTSIDE = -1e6;
/** a picture's border is continued so far, so that it is no edge in the coarse bands of a blend */
export const CONTINUED = 64;

/** Calls with the source place of each pixel. */
export function eachPlace(
  { width: gw, cell, places: p }: PlaceGrid,
  width: number,
  height: number,
  take: (o: number, u: number, v: number) => void,
): void {
  const line = 2 * gw;
  for (let y = 0, o = 0; y < height; y++) {
    const j = (y / cell) | 0;
    const fy = y / cell - j;
    for (let x = 0; x < width; x++, o++) {
      const i = (x / cell) | 0;
      const fx = x / cell - i;
      const k = j * line + 2 * i;
      const au = p[k] + fx * (p[k + 2] - p[k]);
      const av = p[k + 1] + fx * (p[k + 3] - p[k + 1]);
      const bu = p[k + line] + fx * (p[k + line + 2] - p[k + line]);
      const bv = p[k + line + 1] + fx * (p[k + line + 3] - p[k + line + 1]);
      take(o, au + fy * (bu - au), av + fy * (bv - av));
    }
  }
}

/** The plain form of the kernel {@link warpByGrid}, which it is held against; also bilinear. */
export function drawByGrid(
  image: EncodedImage,
  grid: PlaceGrid,
  width: number,
  height: number,
  kernel: 'lanczos' | 'bilinear',
  continued = CONTINUED,
): { planes: Planes; inside: Float32Array } {
  const n = width * height;
  const planes = [new Float32Array(n), new Float32Array(n), new Float32Array(n)] as const;
  const inside = new Float32Array(n);
  const { width: w, height: h, data, white } = image;
  const gain = 1 / white;
  const draw = kernel === 'bilinear' ? bilinear : lanczos;
  eachPlace(grid, width, height, (o, u, v) => {
    const border = Math.min(u, v, w - 1 - u, h - 1 - v);
    inside[o] = Number.isNaN(border) ? OUTSIDE : border;
    if (!(border >= -continued)) return;
    // beyond the border its pixels are continued as they are
    if (border < 0) nearest(data, w, h, u, v, gain, planes, o);
    else draw(data, w, h, u, v, gain, planes, o);
  });
  return { planes, inside };
}

type Planes = readonly [Float32Array, Float32Array, Float32Array];

function nearest(
  data: EncodedImage['data'],
  w: number,
  h: number,
  u: number,
  v: number,
  gain: number,
  [R, G, B]: Planes,
  o: number,
): void {
  const i =
    (Math.round(Math.max(0, Math.min(h - 1, v))) * w + Math.round(Math.max(0, Math.min(w - 1, u)))) * 3;
  R[o] = data[i] * gain;
  G[o] = data[i + 1] * gain;
  B[o] = data[i + 2] * gain;
}

function bilinear(
  data: EncodedImage['data'],
  w: number,
  h: number,
  u: number,
  v: number,
  gain: number,
  [R, G, B]: Planes,
  o: number,
): void {
  const cu = Math.max(0, Math.min(w - 1.001, u));
  const cv = Math.max(0, Math.min(h - 1.001, v));
  const [x, y] = [cu | 0, cv | 0];
  const [fx, fy] = [cu - x, cv - y];
  const i = (y * w + x) * 3;
  const below = i + w * 3;
  const [a, b, c, d] = [
    (1 - fx) * (1 - fy) * gain,
    fx * (1 - fy) * gain,
    (1 - fx) * fy * gain,
    fx * fy * gain,
  ];
  R[o] = a * data[i] + b * data[i + 3] + c * data[below] + d * data[below + 3];
  G[o] = a * data[i + 1] + b * data[i + 4] + c * data[below + 1] + d * data[below + 4];
  B[o] = a * data[i + 2] + b * data[i + 5] + c * data[below + 2] + d * data[below + 5];
}

function lanczos(
  data: EncodedImage['data'],
  w: number,
  h: number,
  u: number,
  v: number,
  gain: number,
  [R, G, B]: Planes,
  o: number,
): void {
  const cu = Math.max(0, Math.min(w - 1, u));
  const cv = Math.max(0, Math.min(h - 1, v));
  const [x, y] = [cu | 0, cv | 0];
  const px = (((cu - x) * LANCZOS_PHASES + 0.5) | 0) * LANCZOS_TAPS;
  const py = (((cv - y) * LANCZOS_PHASES + 0.5) | 0) * LANCZOS_TAPS;
  const within = x >= 2 && y >= 2 && x < w - 3 && y < h - 3;
  let [r, g, b] = [0, 0, 0];
  for (let t = 0; t < LANCZOS_TAPS; t++) {
    const c = LANCZOS[py + t];
    const row = within ? y - 2 + t : Math.max(0, Math.min(h - 1, y - 2 + t));
    let i = (row * w + x - 2) * 3;
    for (let s = 0; s < LANCZOS_TAPS; s++, i += 3) {
      const f = c * LANCZOS[px + s];
      const at = within ? i : (row * w + Math.max(0, Math.min(w - 1, x - 2 + s))) * 3;
      r += f * data[at];
      g += f * data[at + 1];
      b += f * data[at + 2];
    }
  }
  R[o] = r * gain;
  G[o] = g * gain;
  B[o] = b * gain;
}
