import { DENOISE_MARGIN, denoisePlanes } from '../finish/denoise';
import { type Sharpen, sharpenPlanes } from '../finish/sharpen';
import { composite, type PlacedLayer } from '../layers/composite';
import { type ToneSource } from '../mask/mask';
import { type Adjust, NO_ADJUST } from '../match/adjust';
import { adjustPlanes } from '../match/adjustPlanes';
import { toneOf } from '../merge/radiance/toneMap';
import { brightenPlanes } from '../raster/encodedGain';
import { IDENTITY, type Matrix3, multiply, toLevel, transform, translation } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { decodePlane } from '../raster/srgb';
import { coverage, type Kernel, warpImage } from '../raster/warp';
import { type KeptPlanes, NOTHING_KEPT } from './keptPlanes';
import { type SceneMerge, type ViewScene } from './viewScene';

/** Planes that are to be left as they are, and what is still to be done to a copy of them, in this order. */
export interface Unfinished {
  /** sRGB-encoded, on `wide` */
  readonly planes: readonly Float32Array[];
  readonly wide: Rectangle;
  /** planes on the same rectangle that these are drawn towards, and how far, 0…1 */
  readonly towards?: { readonly planes: readonly Float32Array[]; readonly share: number };
  readonly adjust: Adjust;
  readonly stops: number;
  /** its radius in pixels of these planes */
  readonly sharpen?: Sharpen;
}

/** All layers on the reference's grid, before the match of the whole and the finish. */
export function unmatched(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes = NOTHING_KEPT,
): Unfinished {
  const planes = kept.of(keyOf('layers', scene, [level, area, kernel]), () =>
    layeredPlanes(scene, level, area, kernel),
  );
  return { planes, wide: area, adjust: scene.match.whole, stops: 0 };
}

/** All layers and the match of the whole, before the finish, on the reference's grid: sRGB-encoded planes. */
export function resultPlanes(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes = NOTHING_KEPT,
): Float32Array[] {
  return completed(unmatched(scene, level, area, kernel, kept), area);
}

/** Does to a copy of the planes what is still to be done. */
export function completed(picture: Unfinished, area: Rectangle): Float32Array[] {
  const { planes, wide, towards, adjust, stops, sharpen } = picture;
  const own = planes.map((p) => p.slice());
  if (towards)
    own.forEach((p, c) => {
      const other = towards.planes[c];
      for (let i = 0; i < p.length; i++) p[i] += towards.share * (other[i] - p[i]);
    });
  adjustPlanes(own, adjust);
  brightenPlanes(own, stops);
  if (sharpen) sharpenPlanes(own, wide.width, wide.height, sharpen);
  return wide === area ? own : own.map((p) => cut(p, wide, area));
}

/** What the layers alone depend on, and what else. */
function keyOf(what: string, { pixels, layers, match }: ViewScene, rest: readonly unknown[]): () => string {
  return () => JSON.stringify([what, pixels, layers, match.set, rest]);
}

function layeredPlanes(scene: ViewScene, level: number, area: Rectangle, kernel: Kernel): Float32Array[] {
  const layers = scene.layers.flatMap((layer): PlacedLayer[] => {
    const { opacity, blend, stops, mask } = layer;
    const part = { opacity, blend, stops, mask, adjusts: [scene.match.set, layer.adjust] };
    if (layer.source === 'merge')
      return scene.merge ? [{ levels: scene.merge.levels, matrix: IDENTITY, ...part }] : [];
    const frame = scene.frames.find((f) => f.id === layer.source);
    return frame?.matrix ? [{ levels: frame.levels, matrix: frame.matrix, ...part }] : [];
  });
  return composite(layers, Math.max(scene.width, scene.height), level, area, kernel, tonesOf(scene.merge));
}

/** Tones of the merged picture on any rectangle of a level, edges continued. */
export function tonesOf(merge: SceneMerge | undefined): ToneSource | undefined {
  if (!merge) return undefined;
  return ({ level, ...area }) => {
    const image = merge.levels[Math.min(level, merge.levels.length - 1)];
    const planes = warpImage(image, IDENTITY, area, 'bilinear');
    planes.forEach(decodePlane);
    return planes[0].map((r, i) => toneOf(r, planes[1][i], planes[2][i]));
  };
}

/** from the second halving on, sixteen pixels average the noise away */
const COARSEST_NOISE = 1;
/** radius of sharpening, level pixels, below which it does nothing that can be seen */
const LEAST_RADIUS = 0.35;

/** The picture on a rectangle of the straightened grid at a level, straightened, with its noise and without. */
export function unfinished(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes = NOTHING_KEPT,
): Unfinished {
  const { exposure, noise, sharpen, straighten } = scene.finish;
  const radius = sharpen.radius / 2 ** level;
  const sharpens = sharpen.amount > 0 && radius >= LEAST_RADIUS;
  const sigma = noise > 0 && level <= COARSEST_NOISE ? (scene.merge?.noise ?? 0) / 2 ** level : 0;
  const margin = (sharpens ? Math.ceil(8 * radius) + 2 : 0) + (sigma > 0 ? DENOISE_MARGIN : 0);
  const wide = margin > 0 ? grown(area, margin) : area;
  const last = { stops: exposure, ...(sharpens ? { sharpen: { ...sharpen, radius } } : {}) };
  if (sigma === 0 && isIdentity(straighten))
    return { ...unmatched(scene, level, wide, kernel, kept), ...last };
  const grid = [scene.match.whole, straighten, level, wide, kernel];
  const planes = kept.of(keyOf('straight', scene, grid), () =>
    straightPlanes(scene, level, wide, kernel, kept),
  );
  const picture = { planes, wide, adjust: NO_ADJUST, ...last };
  if (sigma === 0) return picture;
  // all of the noise is taken out once; how much of that is wished for is a matter of mixing
  const even = kept.of(keyOf('even', scene, [...grid, sigma]), () => {
    const own = planes.map((p) => p.slice());
    denoisePlanes(own, wide.width, wide.height, 1, sigma);
    return own;
  });
  return { ...picture, towards: { planes: even, share: noise } };
}

/**
 * The finished picture on a rectangle of the straightened grid at a level: straightened, noise taken out, exposed, sharpened last.
 * @returns sRGB-encoded planes; black where the straightened picture has nothing
 */
export function finishedPlanes(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes = NOTHING_KEPT,
): Float32Array[] {
  return completed(unfinished(scene, level, area, kernel, kept), area);
}

export const grown = ({ x, y, width, height }: Rectangle, by: number): Rectangle => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

/** The part of a plane on `from` that lies in `to`. */
export function cut(plane: Float32Array, from: Rectangle, to: Rectangle): Float32Array {
  const out = new Float32Array(to.width * to.height);
  for (let y = 0; y < to.height; y++) {
    const at = (y + to.y - from.y) * from.width + to.x - from.x;
    out.set(plane.subarray(at, at + to.width), y * to.width);
  }
  return out;
}

const isIdentity = (m: Matrix3): boolean => m.every((v, i) => v === IDENTITY[i]);

function straightPlanes(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes,
): Float32Array[] {
  return straightened(scene, level, area, kernel, (from) => resultPlanes(scene, level, from, kernel, kept));
}

/**
 * Planes on the straightened grid from planes on the reference's; black where there is nothing.
 * @param draw planes of a rectangle of the reference's grid
 */
export function straightened(
  { finish: { straighten }, width, height }: Pick<ViewScene, 'finish' | 'width' | 'height'>,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  draw: (from: Rectangle) => Float32Array[],
): Float32Array[] {
  if (isIdentity(straighten)) return draw(area);
  const map = toLevel(straighten, level);
  const size = { width: Math.ceil(width / 2 ** level), height: Math.ceil(height / 2 ** level) };
  const from = reached(map, area, size.width, size.height);
  if (!from) return [0, 1, 2].map(() => new Float32Array(area.width * area.height));
  const planes = draw(from);
  const data = new Float32Array(from.width * from.height * 3);
  for (let i = 0, o = 0; o < data.length; i++, o += 3) {
    data[o] = planes[0][i];
    data[o + 1] = planes[1][i];
    data[o + 2] = planes[2][i];
  }
  const image = { width: from.width, height: from.height, white: 1, data } as const;
  const local = multiply(translation(-from.x, -from.y), map);
  const straight = warpImage(image, local, area, kernel);
  const inside = coverage(size, map, area, 0);
  for (const plane of straight) for (let i = 0; i < plane.length; i++) plane[i] *= inside[i];
  return straight;
}

/** The part of the reference that an area of the straightened picture shows, with room for the kernel. */
function reached(map: Matrix3, area: Rectangle, width: number, height: number): Rectangle | undefined {
  const corners = [0, 1, 2, 3].map((k) =>
    transform(map, area.x + (k & 1) * (area.width - 1), area.y + (k >> 1) * (area.height - 1)),
  );
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  const x0 = Math.max(0, Math.floor(Math.min(...xs)) - 4);
  const y0 = Math.max(0, Math.floor(Math.min(...ys)) - 4);
  const x1 = Math.min(width, Math.ceil(Math.max(...xs)) + 5);
  const y1 = Math.min(height, Math.ceil(Math.max(...ys)) + 5);
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : undefined;
}
