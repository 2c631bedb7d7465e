import { strokeBox } from '../mask/stroke';
import { type Rectangle } from '../raster/raster';
import { type Part, type Region } from './region';

/** A feather is nothing any more so many of its radii away. */
const FEATHERS = 3;

type Box = readonly [left: number, top: number, right: number, bottom: number];

/** The box of a part that is drawn, fractions of the long edge; undefined for one that may lie anywhere, null for one that is nowhere. */
function partBox(
  part: Part,
  named: (id: string) => Region | undefined,
  deep: number,
): Box | undefined | null {
  switch (part.kind) {
    case 'strokes': {
      const boxes = part.settings.strokes
        .filter((s) => s.action === 'reveal')
        .map((s): Box => {
          const { x, y, width, height } = strokeBox(s);
          return [x, y, x + width, y + height];
        });
      return boxes.length > 0 ? around(boxes) : null;
    }
    case 'ellipse': {
      const { x, y, across, down } = part.settings;
      const reach = Math.max(across, down);
      return [x - reach, y - reach, x + reach, y + reach];
    }
    case 'polygon': {
      const { corners } = part.settings;
      if (corners.length < 3) return null;
      const [xs, ys] = [0, 1].map((k) => corners.map((c) => c[k]));
      return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
    }
    case 'named': {
      const region = named(part.settings.region);
      return region && deep > 0 ? boxOf(region, named, deep - 1) : undefined;
    }
    default:
      return undefined;
  }
}

const around = (boxes: readonly Box[]): Box => [
  Math.min(...boxes.map((b) => b[0])),
  Math.min(...boxes.map((b) => b[1])),
  Math.max(...boxes.map((b) => b[2])),
  Math.max(...boxes.map((b) => b[3])),
];

function boxOf(
  { parts, invert, grow, feather, follow }: Region,
  named: (id: string) => Region | undefined,
  deep: number,
): Box | undefined {
  if (invert) return undefined;
  let box: Box | undefined | null = null;
  parts
    .filter((p) => p.on)
    .forEach(({ how, part, turned }, i) => {
      const own = turned ? undefined : partBox(part, named, deep);
      if (i === 0) box = how === 'remove' ? undefined : own;
      // what is taken away or kept to makes nothing larger
      else if (how === 'add')
        box = own && box ? around([own, box]) : own === null ? box : box === null ? own : undefined;
      else if (how === 'keep') box ??= own;
    });
  if (!box) return undefined;
  const by = Math.max(0, grow) + FEATHERS * feather + follow;
  const [left, top, right, bottom] = box as Box;
  return [left - by, top - by, right + by, bottom + by];
}

/**
 * The rectangle outside of which nothing of a region lies, as far as its shapes alone say it, full-size pixels.
 * @param named the region of a name's id
 * @returns undefined where it may lie anywhere, or nothing is drawn yet
 */
export function regionBounds(
  region: Region,
  longEdge: number,
  named: (id: string) => Region | undefined,
): Rectangle | undefined {
  const box = boxOf(region, named, 8);
  if (!box) return undefined;
  const [x, y, right, bottom] = box.map((v) => v * longEdge);
  return {
    x: Math.floor(x),
    y: Math.floor(y),
    width: Math.ceil(right - Math.floor(x)),
    height: Math.ceil(bottom - Math.floor(y)),
  };
}
