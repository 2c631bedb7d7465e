import { type CutGraph, minimumCut } from '../../cut/maxFlow';
import { type Rectangle, sharedFloats } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { type ChosenWeights } from '../blendWeights';
import { type GridFrame } from '../frameOnGrid';

/** the middle of the part always comes from the other frame: this share of its sides */
const CORE = 0.6;
/** the seam may run this far outside the part, as a share of its sides */
const AROUND = 0.25;
const HOLD = 1e6;
const LENGTH = 0.01;

/** Which frame makes the part that is swapped, and which everything else. */
export interface Swap extends ChosenWeights {
  /** mean difference of the two frames along the seam, encoded 0…1 */
  readonly seam: number;
}

/**
 * Puts one frame's part into the reference along the seam where both agree best: a graph cut between the part's middle and what lies around
 * it (Kwatra et al. 2003).
 * @param part full-size pixels of the reference
 * @param taken index of the frame that gives the part
 */
export function swapWeights(
  frames: readonly GridFrame[],
  reference: number,
  taken: number,
  part: Rectangle,
  grid: ReducedGrid,
): Swap {
  const { width: w, height: h, level } = grid;
  const n = w * h;
  const scale = 2 ** level;
  const inner = scaled(part, CORE, scale);
  const outer = scaled(part, 1 + 2 * AROUND, scale);
  const [a, b] = [frames[reference], frames[taken]];
  const apart = new Float32Array(n);
  for (let i = 0; i < n; i++)
    for (let c = 0; c < 3; c++) apart[i] += Math.abs(a.planes[c][i] - b.planes[c][i]) / 3;
  const terminal = new Float32Array(n);
  const within = ({ x0, y0, x1, y1 }: Bounds, x: number, y: number): boolean =>
    x >= x0 && x <= x1 && y >= y0 && y <= y1;
  const [from, to, capacity]: [number[], number[], number[]] = [[], [], []];
  const join = (i: number, j: number): void => {
    from.push(i);
    to.push(j);
    capacity.push(LENGTH + apart[i] + apart[j]);
  };
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      if (b.seen[i] === 0 || !within(outer, x, y)) terminal[i] = HOLD;
      else if (within(inner, x, y)) terminal[i] = -HOLD;
      if (x + 1 < w) join(i, i + 1);
      if (y + 1 < h) join(i, i + w);
    }
  const graph: CutGraph = {
    nodes: n,
    terminal,
    from: Int32Array.from(from),
    to: Int32Array.from(to),
    capacity: Float32Array.from(capacity),
  };
  const side = minimumCut(graph);
  let [sum, edges] = [0, 0];
  for (let e = 0; e < from.length; e++)
    if (side[from[e]] !== side[to[e]]) {
      sum += (apart[from[e]] + apart[to[e]]) / 2;
      edges++;
    }
  const planes = frames.map((_, f) => {
    const plane = sharedFloats(n);
    if (f === taken) plane.set(side);
    else if (f === reference) for (let i = 0; i < n; i++) plane[i] = 1 - side[i];
    return plane;
  });
  return { ...grid, planes, seam: edges > 0 ? sum / edges : 0 };
}

interface Bounds {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

function scaled({ x, y, width, height }: Rectangle, share: number, scale: number): Bounds {
  const [cx, cy] = [x + width / 2, y + height / 2];
  return {
    x0: (cx - (share * width) / 2) / scale,
    y0: (cy - (share * height) / 2) / scale,
    x1: (cx + (share * width) / 2) / scale,
    y1: (cy + (share * height) / 2) / scale,
  };
}

/** The largest place where two frames differ, full-size pixels: what a swap is most likely about. Undefined when they hardly differ. */
export function likelyPart(
  frames: readonly GridFrame[],
  reference: number,
  other: number,
  grid: ReducedGrid,
): Rectangle | undefined {
  const { width: w, height: h, level } = grid;
  const [a, b] = [frames[reference], frames[other]];
  const differs = new Uint8Array(w * h);
  for (let i = 0; i < differs.length; i++) {
    let apart = 0;
    for (let c = 0; c < 3; c++) apart += Math.abs(a.planes[c][i] - b.planes[c][i]) / 3;
    differs[i] = a.seen[i] > 0 && b.seen[i] > 0 && apart > 0.07 ? 1 : 0;
  }
  const places = differingPlaces(differs, w, h).sort((p, q) => q.count - p.count);
  if (places.length === 0) return undefined;
  // a hand that moved leaves two places: where it was and where it is; both belong to the part
  const part = { ...places[0] };
  for (let i = 1; i < places.length;) {
    const p = places[i];
    const [mx, my] = [BESIDE * (part.x1 - part.x0 + 1), BESIDE * (part.y1 - part.y0 + 1)];
    const beside =
      p.count >= COUNTS * places[0].count &&
      p.x0 <= part.x1 + mx &&
      p.x1 >= part.x0 - mx &&
      p.y0 <= part.y1 + my &&
      p.y1 >= part.y0 - my;
    if (!beside) {
      i++;
      continue;
    }
    part.x0 = Math.min(part.x0, p.x0);
    part.y0 = Math.min(part.y0, p.y0);
    part.x1 = Math.max(part.x1, p.x1);
    part.y1 = Math.max(part.y1, p.y1);
    places.splice(i, 1);
    // what was too far from the smaller part may lie beside the larger one
    i = 1;
  }
  const scale = 2 ** level;
  const [bw, bh] = [(part.x1 - part.x0 + 1) * scale, (part.y1 - part.y0 + 1) * scale];
  const x = Math.max(0, Math.round(part.x0 * scale - GROW * bw));
  const y = Math.max(0, Math.round(part.y0 * scale - GROW * bh));
  return { x, y, width: Math.round(bw * (1 + 2 * GROW)), height: Math.round(bh * (1 + 2 * GROW)) };
}

/** a differing place has more cells than this */
const LEAST = 12;
/** another place belongs to the part when it is at least this large against the first, and no farther than so many of the part’s sides */
const COUNTS = 0.12;
const BESIDE = 1;
const GROW = 0.2;

interface Place extends Bounds {
  readonly count: number;
}

/** The connected places of a mask, in cells; the mask is used up. */
function differingPlaces(differs: Uint8Array, w: number, h: number): Place[] {
  const places: Place[] = [];
  const stack: number[] = [];
  for (let seed = 0; seed < differs.length; seed++) {
    if (differs[seed] !== 1) continue;
    let [count, x0, y0, x1, y1] = [0, w, h, 0, 0];
    differs[seed] = 2;
    stack.push(seed);
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      count++;
      const x = i % w;
      const y = (i - x) / w;
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
      // a gap of a cell does not part a hand from its arm
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++) {
          const [u, v] = [x + dx, y + dy];
          if (u < 0 || v < 0 || u >= w || v >= h || differs[v * w + u] !== 1) continue;
          differs[v * w + u] = 2;
          stack.push(v * w + u);
        }
    }
    if (count > LEAST) places.push({ count, x0, y0, x1, y1 });
  }
  return places;
}
