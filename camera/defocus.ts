import { type Kernels, kernels } from '@/core/kernels/kernels';
import { type Raster } from '@/core/raster/raster';
import { type BlurSteps, clearPart, kernelBlurSteps, plainBlurSteps } from './blurSteps';
import { type Cells, type Field, type Part } from './discField';
import { SHARP } from './spreadDiscs';

/** signed circles of confusion closer than this, pixels of radius, share a layer */
const STEP = 0.6;
/** layers grow by this share of their radius, so that far blur needs few of them */
const GROWTH = 0.12;
/** Blur from these radii on, pixels, is made of squares twice as wide as those before: on discs that large it cannot be seen. */
const COARSER_FROM = [6, 16, 40];

/** Layer number of a signed radius: far layers positive; steps grow with the radius. */
const layerOf = (radius: number): number => {
  const r = Math.abs(radius);
  if (r < SHARP) return 0;
  const n = Math.round(Math.log1p((GROWTH * (r - SHARP)) / STEP) / Math.log1p(GROWTH)) + 1;
  return radius < 0 ? -n : n;
};

/** steps of the table that tells radii their layers, a pixel */
const PER_PIXEL = 64;
const KEYS = new Int16Array(512 * PER_PIXEL).map((_, i) => layerOf(i / PER_PIXEL));
const keyOf = (radius: number): number => {
  const r = radius < 0 ? -radius : radius;
  const at = (PER_PIXEL * r + 0.5) | 0;
  const key = at < KEYS.length ? KEYS[at] : layerOf(r);
  return radius < 0 ? -key : key;
};

/** Pixels that share a layer, row by row. */
interface Layer {
  readonly points: Int32Array;
  /** its squares are 2 to this power pixels wide */
  readonly level: number;
}

/** pixels up to which the kernels' memory, which is never given back, is asked for */
const MOST_COMPILED = 2_500_000;

/**
 * A sharp picture as the lens sees it out of focus: every point becomes an even disc of its circle of confusion. Layers of equal
 * blur are laid over each other from far to near, each with its own opacity, so that a sharp edge before a blurred ground stays
 * sharp, and a blurred edge before a sharp ground lets it through; ground that the sharp picture never saw is continued from
 * beside it. Layers of far blur are joined in squares of pixels before they meet the finer ones (“over” is associative: Porter & Duff,
 * “Compositing digital images”, 1984).
 * @param radii signed radius of the disc for each pixel, pixels; negative before the sharp distance
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function defocus(
  sharp: Raster,
  radii: Float32Array,
  compiled: Kernels | null = kernels() ?? null,
): Raster {
  const { width, height } = sharp;
  const layers = layersOf(radii);
  if (layers.length === 1 && Math.abs(radii[layers[0].points[0]]) < SHARP) return sharp;
  const count = 1 + layers.reduce((most, { level }) => Math.max(most, level), 0);
  if (!compiled || width * height > MOST_COMPILED)
    return blur(sharp, radii, layers, plainBlurSteps(width, height, count));
  const far = radii.reduce((most, r) => Math.max(most, Math.abs(r)), 0) / 2 ** COARSER_FROM.length;
  const widest = Math.max(far, COARSER_FROM[COARSER_FROM.length - 1]);
  return compiled.borrow(() =>
    blur(sharp, radii, layers, kernelBlurSteps(compiled, width, height, count, widest)),
  );
}

function blur(
  sharp: Raster,
  radii: Float32Array,
  layers: readonly Layer[],
  { levels, overlay, overlayDoubled }: BlurSteps,
): Raster {
  const parts: (Part | undefined)[] = [];
  // what a level holds goes on to the next finer one
  const join = (l: number): void => {
    const part = parts[l];
    if (!part) return;
    const { field } = levels[l - 1];
    const finer: Part = {
      left: Math.max(0, 2 * part.left - 1),
      top: Math.max(0, 2 * part.top - 1),
      right: Math.min(field.width, 2 * part.right + 1),
      bottom: Math.min(field.height, 2 * part.bottom + 1),
    };
    overlayDoubled(levels[l].field, field, finer);
    clearPart(levels[l].field, part);
    parts[l] = undefined;
    parts[l - 1] = around(parts[l - 1], finer);
  };
  let before = layers[0].level;
  for (const layer of layers) {
    for (let l = before; l > layer.level; l--) join(l);
    before = layer.level;
    const level = levels[before];
    gatherCells(sharp, radii, layer, level.cells, level.field.width);
    parts[before] = around(parts[before], overlay(level));
  }
  for (let l = before; l > 0; l--) join(l);
  return planesOf(levels[0].field, sharp);
}

/** The layers of a picture from far to near. */
function layersOf(radii: Float32Array): Layer[] {
  const keys = new Int16Array(radii.length);
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < keys.length; i++) {
    const key = (keys[i] = keyOf(radii[i]));
    if (key < least) least = key;
    if (key > most) most = key;
  }
  const counts = new Int32Array(most - least + 1);
  for (let i = 0; i < keys.length; i++) counts[keys[i] - least]++;
  // one list of all pixels, sorted by their layers
  const ends = new Int32Array(counts.length);
  for (let k = 1; k < ends.length; k++) ends[k] = ends[k - 1] + counts[k - 1];
  const sorted = new Int32Array(keys.length);
  for (let i = 0; i < keys.length; i++) sorted[ends[keys[i] - least]++] = i;
  const layers: Layer[] = [];
  for (let k = counts.length - 1; k >= 0; k--)
    if (counts[k] > 0)
      layers.push({ points: sorted.subarray(ends[k] - counts[k], ends[k]), level: levelOf(k + least) });
  return layers;
}

/** All of a layer shares the width of its squares. */
const levelOf = (key: number): number => COARSER_FROM.filter((from) => Math.abs(key) >= layerOf(from)).length;

/** Gathers a layer's pixels in squares: mean light, the share of the square that the layer holds, and the mean radius that is left to spread. */
function gatherCells(
  { width, height, planes: [red, green, blue] }: Raster,
  radii: Float32Array,
  { points, level }: Layer,
  cells: Cells,
  across: number,
): void {
  const { places, light, slots } = cells;
  if (level === 0) {
    // every pixel is a square of its own
    cells.count = points.length;
    places.set(points);
    for (let k = 0, o = 0; k < points.length; k++, o += 4) {
      const i = points[k];
      cells.radii[k] = Math.abs(radii[i]);
      light[o] = red[i];
      light[o + 1] = green[i];
      light[o + 2] = blue[i];
      light[o + 3] = 1;
    }
    return;
  }
  const scale = 2 ** level;
  let count = 0;
  for (const i of points) {
    const x = i % width;
    const y = (i - x) / width;
    const place = (y >> level) * across + (x >> level);
    let slot = slots[place];
    if (slot < 0) {
      slot = slots[place] = count++;
      places[slot] = place;
      cells.radii[slot] = 0;
      light.fill(0, 4 * slot, 4 * slot + 4);
    }
    light[4 * slot] += red[i];
    light[4 * slot + 1] += green[i];
    light[4 * slot + 2] += blue[i];
    light[4 * slot + 3]++;
    cells.radii[slot] += Math.abs(radii[i]);
  }
  // averaging squares, (s² − 1) / 12, and drawing them large again, (s² − 1) / 4, blur by themselves: it is taken off the disc's own r² / 4
  const own = (4 * (scale * scale - 1)) / 3;
  for (let slot = 0; slot < count; slot++) {
    const place = places[slot];
    slots[place] = -1;
    const held = light[4 * slot + 3];
    const X = place % across;
    const Y = (place - X) / across;
    const pixels = Math.min(scale, width - X * scale) * Math.min(scale, height - Y * scale);
    const r = cells.radii[slot] / held;
    cells.radii[slot] = Math.sqrt(r * r - own) / scale;
    for (let c = 0; c < 4; c++) light[4 * slot + c] /= pixels;
  }
  cells.count = count;
}

/** The part that holds both. */
const around = (a: Part | undefined, b: Part): Part =>
  a
    ? {
        left: Math.min(a.left, b.left),
        top: Math.min(a.top, b.top),
        right: Math.max(a.right, b.right),
        bottom: Math.max(a.bottom, b.bottom),
      }
    : b;

/** The picture's planes; places that no disc covers whole are continued from what there is. */
function planesOf({ data }: Field, { width, height, planes }: Raster): Raster {
  const [red, green, blue] = planes.map((plane) => new Float32Array(plane.length));
  for (let i = 0, o = 0; i < red.length; i++, o += 4) {
    const covered = data[o + 3];
    const k = covered > 1e-3 && covered < 1 ? 1 / covered : 1;
    red[i] = data[o] * k;
    green[i] = data[o + 1] * k;
    blue[i] = data[o + 2] * k;
  }
  return { width, height, planes: [red, green, blue] };
}
