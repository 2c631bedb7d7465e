import { srgbToLinear } from '../../raster/srgb';
import { length2 } from '../../raster/length';

/** How the picture runs across the edge of a region, from inside to outside. */
export interface EdgeProfile {
  /** distances from the edge, pixels of full size, negative inside */
  readonly at: readonly number[];
  /** tone there, stops of light against the mean of both sides; half of all places lie between `low` and `high` */
  readonly tone: readonly number[];
  readonly low: readonly number[];
  readonly high: readonly number[];
  /** overshoot: how much lighter (above 0) or darker a rim just inside and just outside is than both sides farther off, stops, in the middle of all places */
  readonly rim: { readonly inside: number; readonly outside: number };
  /** pixels over which the picture's own tone passes from one side to the other, in the middle of the places where both differ; absent where too few do */
  readonly ownWidth?: number;
  /** pixels over which the region itself goes from a tenth to nine tenths, in the middle of all places */
  readonly width: number;
}

/** how far to either side it is looked, pixels of the level */
const REACH = 24;
/** a rim lies between these distances, what it is held against between the last and the reach */
const RIM_FROM = 2;
const RIM_TO = 8;
const FAR_FROM = 14;
/** places along the edge that are looked at at most, and at least for anything to be said */
const MOST_PLACES = 2000;
const LEAST_PLACES = 24;
/** stops by which both sides differ where the picture has an edge of its own */
const LEAST_STEP = 0.4;
/** light below this share of white is noise */
const FLOOR = 0.002;

/** A picture and a region on the same grid of a level. */
export interface EdgeView {
  readonly width: number;
  readonly height: number;
  /** R, G, B, encoded */
  readonly planes: readonly Float32Array[];
  /** what lay there before the region did anything, R, G, B, encoded: it has the picture's own edge */
  readonly own?: readonly Float32Array[];
  /** 0…1 */
  readonly mask: Float32Array;
  /** pixels of full size to one of the level */
  readonly size: number;
}

/**
 * The profile across the edge of a region: at places along it where it passes a half, tone is read along the region's own slope, only as
 * far as it stays on its side. Undefined where there is too little edge.
 */
export function edgeProfile(view: EdgeView): EdgeProfile | undefined {
  const light = stopsOf(view.planes);
  const ownLight = view.own && stopsOf(view.own);
  const found = edgePlaces(view);
  const step = Math.max(1, found.length / MOST_PLACES);
  const count = 2 * REACH + 1;
  const tones: number[][] = Array.from({ length: count }, () => []);
  const rims: { readonly inside: number[]; readonly outside: number[] } = { inside: [], outside: [] };
  const widths: number[] = [];
  const ownWidths: number[] = [];
  for (let n = 0; n < found.length; n += step) {
    const place = found[Math.floor(n)];
    const line = lineAcross(view, light, place);
    const inside = meanOf(line, -REACH, -FAR_FROM);
    const outside = meanOf(line, FAR_FROM, REACH);
    if (Number.isNaN(inside) || Number.isNaN(outside)) continue;
    const middle = 0.5 * (inside + outside);
    line.forEach((v, i) => {
      if (!Number.isNaN(v)) tones[i].push(v - middle);
    });
    const [nearIn, nearOut] = [meanOf(line, -RIM_TO, -RIM_FROM), meanOf(line, RIM_FROM, RIM_TO)];
    if (!Number.isNaN(nearIn)) rims.inside.push(beyond(nearIn, inside, outside));
    if (!Number.isNaN(nearOut)) rims.outside.push(beyond(nearOut, inside, outside));
    widths.push(view.size * widthAt(view, place));
    const ownWidth = ownLight && stepWidth(plainLine(view, ownLight, place));
    if (ownWidth !== undefined) ownWidths.push(view.size * ownWidth);
  }
  if (widths.length < LEAST_PLACES) return undefined;
  const sorted = tones.map((t) => t.sort((a, b) => a - b));
  const quantile = (of: readonly number[], q: number): number =>
    of.length ? of[Math.min(of.length - 1, Math.floor(q * of.length))] : NaN;
  const shown = sorted.flatMap((t, i) => (t.length >= LEAST_PLACES / 2 ? [i] : []));
  const by = (q: number): number[] => shown.map((i) => quantile(sorted[i], q));
  return {
    at: shown.map((i) => (i - REACH) * view.size),
    ...{ tone: by(0.5), low: by(0.25), high: by(0.75) },
    rim: { inside: median(rims.inside), outside: median(rims.outside) },
    width: median(widths),
    ...(ownWidths.length >= LEAST_PLACES ? { ownWidth: median(ownWidths) } : {}),
  };
}

/** How far a tone lies above or below two others; 0 between them. */
const beyond = (tone: number, a: number, b: number): number =>
  Math.max(0, tone - Math.max(a, b)) - Math.max(0, Math.min(a, b) - tone);

const median = (of: number[]): number =>
  of.length ? of.sort((a, b) => a - b)[Math.floor(of.length / 2)] : 0;

/** Light of each pixel in stops. */
function stopsOf([r, g, b]: readonly Float32Array[]): Float32Array {
  return r.map((v, i) =>
    Math.log2(0.2126 * srgbToLinear(v) + 0.7152 * srgbToLinear(g[i]) + 0.0722 * srgbToLinear(b[i]) + FLOOR),
  );
}

/** A place on the edge, and the way out of the region. */
interface EdgePlace {
  readonly x: number;
  readonly y: number;
  readonly outX: number;
  readonly outY: number;
}

/** Where the region passes a half between two pixels of a row or a column, and which way it falls there. */
function edgePlaces({ width, height, mask }: EdgeView): EdgePlace[] {
  const out: EdgePlace[] = [];
  const add = (i: number, j: number, x: number, y: number): void => {
    const t = (0.5 - mask[i]) / (mask[j] - mask[i]);
    const [u, v] = [x + (j === i + 1 ? t : 0), y + (j === i + 1 ? 0 : t)];
    const [gx, gy] = slopeAt(mask, width, x, y);
    const length = length2(gx, gy);
    if (length > 1e-4) out.push({ x: u, y: v, outX: -gx / length, outY: -gy / length });
  };
  // slopes are taken over two pixels to each side
  for (let y = 2; y + 3 < height; y++)
    for (let x = 2; x + 3 < width; x++) {
      const i = y * width + x;
      if (mask[i] >= 0.5 !== mask[i + 1] >= 0.5) add(i, i + 1, x, y);
      if (mask[i] >= 0.5 !== mask[i + width] >= 0.5) add(i, i + width, x, y);
    }
  return out;
}

/** Slope of a mask over a window of five, so that a hard edge has the way of its outline. */
function slopeAt(mask: Float32Array, width: number, x: number, y: number): readonly [number, number] {
  let [gx, gy] = [0, 0];
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const m = mask[(y + dy) * width + x + dx];
      gx += dx * m;
      gy += dy * m;
    }
  return [gx, gy];
}

/** Tone along a line across the edge, NaN where it leaves the picture or its side. */
function lineAcross(view: EdgeView, light: Float32Array, place: EdgePlace): Float64Array {
  const line = new Float64Array(2 * REACH + 1).fill(NaN);
  for (const way of [-1, 1])
    for (let t = way === 1 ? 0 : 1; t <= REACH; t++) {
      const [x, y] = [place.x + way * t * place.outX, place.y + way * t * place.outY];
      if (!(x >= 0 && y >= 0 && x < view.width - 1 && y < view.height - 1)) break;
      const m = sampled(view.mask, view.width, x, y);
      if (t > 1 && (way === 1 ? m > 0.5 : m < 0.5)) break;
      line[REACH + way * t] = sampled(light, view.width, x, y);
    }
  return line;
}

/** Pixels of the level over which the region falls from nine tenths to a tenth. */
function widthAt({ mask, width, height }: EdgeView, { x, y, outX, outY }: EdgePlace): number {
  const reach = (way: 1 | -1): number => {
    let before = 0.5;
    for (let t = 0; t <= REACH; t += 0.5) {
      const [u, v] = [x + way * t * outX, y + way * t * outY];
      if (!(u >= 0 && v >= 0 && u < width - 1 && v < height - 1)) return t;
      const m = sampled(mask, width, u, v);
      const wanted = way === 1 ? 0.1 : 0.9;
      // read between the two places on either side of it
      if (way === 1 ? m <= wanted : m >= wanted)
        return t - (before === m ? 0 : (0.5 * (wanted - m)) / (before - m));
      before = m;
    }
    return REACH;
  };
  return reach(1) + reach(-1);
}

/** Tone along a line across the edge, whatever the region says there; NaN beyond the picture. */
function plainLine(view: EdgeView, light: Float32Array, { x, y, outX, outY }: EdgePlace): Float64Array {
  return Float64Array.from({ length: 2 * REACH + 1 }, (_, i) => {
    const [u, v] = [x + (i - REACH) * outX, y + (i - REACH) * outY];
    const isThere = u >= 0 && v >= 0 && u < view.width - 1 && v < view.height - 1;
    return isThere ? sampled(light, view.width, u, v) : NaN;
  });
}

/** Pixels over which a tone passes from a tenth to nine tenths of its step about the middle of a line; undefined where there is no clear step. */
function stepWidth(line: Float64Array): number | undefined {
  const [from, to] = [meanOf(line, -RIM_TO, -RIM_FROM - 1), meanOf(line, RIM_FROM + 1, RIM_TO)];
  if (!(Math.abs(to - from) >= LEAST_STEP)) return undefined;
  const part = (i: number): number => (line[i] - from) / (to - from);
  // from the middle of the step outwards, so that what lies farther off does not count
  let middle = -1;
  for (let i = REACH - RIM_FROM; i < REACH + RIM_FROM; i++)
    if (part(i) <= 0.5 && part(i + 1) > 0.5) middle = i + (0.5 - part(i)) / (part(i + 1) - part(i));
  if (middle < 0) return undefined;
  const crossing = (way: 1 | -1, value: number): number | undefined => {
    for (let t = 0; t < RIM_TO; t += 0.25) {
      const at = middle + way * t;
      const [i, f] = [Math.floor(at), at - Math.floor(at)];
      const v = part(i) + f * (part(i + 1) - part(i));
      if (way === 1 ? v >= value : v <= value) return t;
    }
    return undefined;
  };
  const [before, after] = [crossing(-1, 0.1), crossing(1, 0.9)];
  return before === undefined || after === undefined ? undefined : before + after;
}

function sampled(plane: Float32Array, width: number, x: number, y: number): number {
  const [i, j] = [x | 0, y | 0];
  const [fx, fy] = [x - i, y - j];
  const o = j * width + i;
  const above = plane[o] + fx * (plane[o + 1] - plane[o]);
  const below = plane[o + width] + fx * (plane[o + width + 1] - plane[o + width]);
  return above + fy * (below - above);
}

/** Mean of what is known of a line between two distances; NaN where that is less than half. */
function meanOf(line: Float64Array, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let t = from; t <= to; t++) {
    const v = line[REACH + t];
    if (Number.isNaN(v)) continue;
    sum += v;
    count++;
  }
  return 2 * count > to - from ? sum / count : NaN;
}
