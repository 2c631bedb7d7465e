import { type Raster } from '@/core/raster/raster';
import { type Cells, type Field, type Part, SHARP, spreadDiscs } from './spreadDiscs';

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
  const at = Math.round(PER_PIXEL * Math.abs(radius));
  const key = at < KEYS.length ? KEYS[at] : layerOf(Math.abs(radius));
  return radius < 0 ? -key : key;
};

/** Pixels that share a layer, row by row. */
interface Layer {
  readonly points: Int32Array;
  /** its squares are 2 to this power pixels wide */
  readonly level: number;
}

/** A picture in squares of one width, with room for a layer on its way there. */
interface Level {
  /** what lies there, joined */
  readonly field: Field;
  readonly sums: Field;
  readonly cells: Cells;
  /** the part that holds anything */
  part?: Part;
}

/**
 * A sharp picture as the lens sees it out of focus: every point becomes an even disc of its circle of confusion. Layers of equal
 * blur are laid over each other from far to near, each with its own opacity, so that a sharp edge before a blurred ground stays
 * sharp, and a blurred edge before a sharp ground lets it through; ground that the sharp picture never saw is continued from
 * beside it. Layers of far blur are joined in squares of pixels before they meet the finer ones (“over” is associative: Porter & Duff,
 * “Compositing digital images”, 1984).
 * @param radii signed radius of the disc for each pixel, pixels; negative before the sharp distance
 */
export function defocus(sharp: Raster, radii: Float32Array): Raster {
  const layers = layersOf(radii);
  if (layers.length === 1 && Math.abs(radii[layers[0].points[0]]) < SHARP) return sharp;
  const levels: Level[] = [];
  const levelAt = (k: number): Level => {
    for (let l = levels.length; l <= k; l++) levels.push(emptyLevel(sharp, 2 ** l));
    return levels[k];
  };
  let before = layers[0].level;
  for (const layer of layers) {
    // what lies behind goes on to the finer squares of what comes next
    for (let l = before; l > layer.level; l--) joinFiner(levelAt(l), levelAt(l - 1));
    const { cells, sums, field } = levelAt((before = layer.level));
    gatherCells(sharp, radii, layer, cells, field.width);
    const part = spreadDiscs(cells, sums);
    overlay(sums, field, part);
    levels[before].part = around(levels[before].part, part);
  }
  for (let l = before; l > 0; l--) joinFiner(levelAt(l), levelAt(l - 1));
  return planesOf(levelAt(0).field, sharp);
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
  for (const key of keys) counts[key - least]++;
  const lists = Array.from(counts, (count) => new Int32Array(count));
  counts.fill(0);
  for (let i = 0; i < keys.length; i++) {
    const k = keys[i] - least;
    lists[k][counts[k]++] = i;
  }
  return lists
    .flatMap((points, k) => (points.length > 0 ? [{ points, level: levelOf(k + least) }] : []))
    .reverse();
}

/** All of a layer shares the width of its squares. */
const levelOf = (key: number): number => COARSER_FROM.filter((from) => Math.abs(key) >= layerOf(from)).length;

function emptyLevel({ width, height }: Raster, scale: number): Level {
  const [w, h] = [Math.ceil(width / scale), Math.ceil(height / scale)];
  return { field: emptyField(w, h), sums: emptyField(w, h), cells: emptyCells(w * h) };
}

const emptyField = (width: number, height: number): Field => ({
  width,
  height,
  data: new Float32Array(4 * width * height),
});

const emptyCells = (count: number): Cells => ({
  count: 0,
  places: new Int32Array(count),
  radii: new Float32Array(count),
  light: new Float32Array(4 * count),
  slots: new Int32Array(count).fill(-1),
});

/** Gathers a layer's pixels in squares: mean light, the share of the square that the layer holds, and the mean radius that is left to spread. */
function gatherCells(
  { width, height, planes: [red, green, blue] }: Raster,
  radii: Float32Array,
  { points, level }: Layer,
  cells: Cells,
  across: number,
): void {
  const { places, light, slots } = cells;
  const scale = 2 ** level;
  let count = 0;
  for (const i of points) {
    const x = i % width;
    const y = (i - x) / width;
    const place = level > 0 ? (y >> level) * across + (x >> level) : i;
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
    cells.radii[slot] = scale > 1 ? Math.sqrt(r * r - own) / scale : r;
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

/** Sums a layer's differences up along its rows, lays it over what is there, and leaves `sums` empty. */
function overlay(sums: Field, joined: Field, { left, top, right, bottom }: Part): void {
  const { data, width } = sums;
  const out = joined.data;
  for (let y = top; y < bottom; y++) {
    let a = 0;
    let b = 0;
    let c = 0;
    let run = 0;
    for (let i = 4 * (y * width + left), end = 4 * (y * width + right); i < end; i += 4) {
      a += data[i];
      b += data[i + 1];
      c += data[i + 2];
      run += data[i + 3];
      // what is left of steps that cancel each other is rounding
      if (run <= 1e-5) continue;
      // where a layer's own discs overlap beyond 1, they share the place
      const k = run > 1 ? 1 / run : 1;
      const through = run < 1 ? 1 - run : 0;
      out[i] = a * k + out[i] * through;
      out[i + 1] = b * k + out[i + 1] * through;
      out[i + 2] = c * k + out[i + 2] * through;
      out[i + 3] = run * k + out[i + 3] * through;
    }
  }
  clear(sums, { left, top, right, bottom });
}

/** Lays what was joined over the next finer squares, drawn large between the middles of its own, and leaves its place empty. */
function joinFiner(coarse: Level, fine: Level): void {
  const { part } = coarse;
  if (!part) return;
  const { width: w, height: h, data } = coarse.field;
  const { width, height, data: out } = fine.field;
  const line = new Float32Array(4 * w);
  const finer: Part = {
    left: Math.max(0, 2 * part.left - 1),
    top: Math.max(0, 2 * part.top - 1),
    right: Math.min(width, 2 * part.right + 1),
    bottom: Math.min(height, 2 * part.bottom + 1),
  };
  const [from, to] = [4 * Math.max(0, part.left - 1), 4 * Math.min(w, part.right + 1)];
  for (let y = finer.top; y < finer.bottom; y++) {
    // three quarters of its own row and one of the next nearest
    const own = 4 * w * (y >> 1);
    const next = 4 * w * Math.max(0, Math.min(h - 1, (y >> 1) + (y & 1 ? 1 : -1)));
    for (let i = from; i < to; i++) line[i] = 0.75 * data[own + i] + 0.25 * data[next + i];
    for (let x = finer.left, i = 4 * (y * width + x); x < finer.right; x++, i += 4) {
      const p = 4 * (x >> 1);
      const q = x & 1 ? Math.min(p + 4, 4 * w - 4) : Math.max(p - 4, 0);
      const run = 0.75 * line[p + 3] + 0.25 * line[q + 3];
      if (run <= 1e-5) continue;
      const through = 1 - run;
      out[i] = 0.75 * line[p] + 0.25 * line[q] + out[i] * through;
      out[i + 1] = 0.75 * line[p + 1] + 0.25 * line[q + 1] + out[i + 1] * through;
      out[i + 2] = 0.75 * line[p + 2] + 0.25 * line[q + 2] + out[i + 2] * through;
      out[i + 3] = run + out[i + 3] * through;
    }
  }
  clear(coarse.field, part);
  coarse.part = undefined;
  fine.part = around(fine.part, finer);
}

/** Empties a part of a field. */
function clear({ data, width }: Field, { left, top, right, bottom }: Part): void {
  for (let y = top; y < bottom; y++) data.fill(0, 4 * (y * width + left), 4 * (y * width + right));
}

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
