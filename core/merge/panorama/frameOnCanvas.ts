import { kernels } from '../../kernels/kernels';
import { type PlaceGrid, warpByGrid } from '../../kernels/warpKernel';
import { type EncodedImage } from '../../raster/encodedImage';
import { LANCZOS, LANCZOS_PHASES, LANCZOS_TAPS } from '../../raster/lanczos';
import { type Matrix3 } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { pixelOf, type SharedLens, turned } from '../../register/rotation/cameraModel';
import { type PanoramaCanvas } from './canvas';
import { PROJECTIONS } from './projection';

/** A frame drawn on a part of the canvas. */
export interface DrawnFrame {
  /** encoded R, G, B; 0 where the frame does not reach */
  readonly planes: readonly [Float32Array, Float32Array, Float32Array];
  /** distance inside the frame's border, its pixels; negative outside */
  readonly inside: Float32Array;
  /** distance from the picture's middle, 1 at its corners; empty when it was not wanted */
  readonly radius: Float32Array;
}

/** the map is worked out every so many pixels and runs straight between */
const GRID = 8;
const OUTSIDE = -1e6;
/** a frame's border is continued so far, so that it is no edge in the coarse bands */
const CONTINUED = 64;

/** The lens as it draws a frame that was halved `level` times. */
export function reducedLens(lens: SharedLens, level: number): SharedLens {
  const k = 2 ** -level;
  return { ...lens, focalPx: lens.focalPx * k, width: lens.width * k, height: lens.height * k };
}

/** How a frame is drawn. */
export interface DrawWish {
  /** Lanczos-3 or, for what is only looked at or decided on, bilinear */
  readonly kernel: 'lanczos' | 'bilinear';
  /** whether {@link DrawnFrame.radius} is wanted */
  readonly radius: boolean;
}

/** Draws a frame on an area of the canvas. @returns undefined when the frame does not reach the area */
export function frameOnCanvas(
  image: EncodedImage,
  lens: SharedLens,
  rotation: Matrix3,
  canvas: PanoramaCanvas,
  area: Rectangle,
  { kernel, radius: wanted }: DrawWish,
): DrawnFrame | undefined {
  const grid = placesOf(image, lens, rotation, canvas, area);
  if (!grid) return undefined;
  const k = kernel === 'lanczos' ? kernels() : undefined;
  const drawn = k
    ? warpByGrid(k, image, grid, area.width, area.height, -CONTINUED)
    : drawByGrid(image, grid, area.width, area.height, kernel);
  if (!drawn.inside.some((v) => v >= 0)) return undefined;
  const n = area.width * area.height;
  const radius = wanted ? new Float32Array(n) : NOTHING;
  if (wanted) {
    const [cx, cy] = [(image.width - 1) / 2, (image.height - 1) / 2];
    const half = 0.5 * Math.hypot(image.width, image.height);
    eachPlace(grid, area.width, area.height, (o, u, v) => (radius[o] = Math.hypot(u - cx, v - cy) / half));
  }
  return { ...drawn, radius };
}

const NOTHING = new Float32Array(0);

/** Where each grid point of an area is seen in the frame; undefined when the frame is out of reach. */
function placesOf(
  image: EncodedImage,
  lens: SharedLens,
  rotation: Matrix3,
  canvas: PanoramaCanvas,
  area: Rectangle,
): PlaceGrid | undefined {
  const { toRay } = PROJECTIONS[canvas.projection];
  const width = Math.ceil(area.width / GRID) + 1;
  const height = Math.ceil(area.height / GRID) + 1;
  const places = new Float64Array(2 * width * height);
  // a halved picture of odd size loses its last line: its own size and the lens's differ by up to half a pixel
  const [sx, sy] = [image.width / lens.width, image.height / lens.height];
  const slack = 4 * GRID;
  let reaches = false;
  for (let j = 0, k = 0; j < height; j++)
    for (let i = 0; i < width; i++, k += 2) {
      const ray = toRay(
        (area.x + i * GRID + canvas.left) / canvas.scale,
        (area.y + j * GRID + canvas.top) / canvas.scale,
      );
      const seen = ray && pixelOf(lens, ...turned(rotation, ray));
      const u = (places[k] = seen ? seen[0] * sx : NaN);
      const v = (places[k + 1] = seen ? seen[1] * sy : NaN);
      if (u > -slack && v > -slack && u < image.width + slack && v < image.height + slack) reaches = true;
    }
  return reaches ? { width, height, cell: GRID, places } : undefined;
}

/** Calls with the source place of each pixel. */
function eachPlace(
  { width: gw, places: p }: PlaceGrid,
  width: number,
  height: number,
  take: (o: number, u: number, v: number) => void,
): void {
  const line = 2 * gw;
  for (let y = 0, o = 0; y < height; y++) {
    const j = (y / GRID) | 0;
    const fy = y / GRID - j;
    for (let x = 0; x < width; x++, o++) {
      const i = (x / GRID) | 0;
      const fx = x / GRID - i;
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
  kernel: DrawWish['kernel'],
): Pick<DrawnFrame, 'planes' | 'inside'> {
  const n = width * height;
  const planes = [new Float32Array(n), new Float32Array(n), new Float32Array(n)] as const;
  const inside = new Float32Array(n);
  const { width: w, height: h, data, white } = image;
  const gain = 1 / white;
  const draw = kernel === 'bilinear' ? bilinear : lanczos;
  eachPlace(grid, width, height, (o, u, v) => {
    const border = Math.min(u, v, w - 1 - u, h - 1 - v);
    inside[o] = Number.isNaN(border) ? OUTSIDE : border;
    if (border >= -CONTINUED) draw(data, w, h, u, v, gain, planes, o);
  });
  return { planes, inside };
}

type Planes = readonly [Float32Array, Float32Array, Float32Array];

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
