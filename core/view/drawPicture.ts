import { evaluate, type World } from '../graph/evaluate';
import { inLight } from '../graph/light';
import { type At, type LightTile } from '../graph/tile';
import { lightOf, maskOf } from '../graph/wanted';
import { kernels } from '../kernels/kernels';
import { type Rectangle } from '../raster/raster';
import { type Kernel } from '../raster/warp';
import { type DrawnGraph } from './viewScene';

/**
 * Side of the tiles in which pictures are drawn, pixels. Views, findings and files draw the same tiles, whole, whatever part of them they
 * want: so they agree to the last bit.
 */
export const TILE = 256;

/** Calls a function for each tile that an area touches, and for the part of it that lies in the area. */
export function forTiles(area: Rectangle, each: (tile: Rectangle, part: Rectangle) => void): void {
  const first = (v: number): number => Math.floor(v / TILE) * TILE;
  for (let y = first(area.y); y < area.y + area.height; y += TILE)
    for (let x = first(area.x); x < area.x + area.width; x += TILE) {
      const [left, top] = [Math.max(x, area.x), Math.max(y, area.y)];
      each(
        { x, y, width: TILE, height: TILE },
        {
          x: left,
          y: top,
          width: Math.min(x + TILE, area.x + area.width) - left,
          height: Math.min(y + TILE, area.y + area.height) - top,
        },
      );
    }
}

/** Copies a part of a tile's plane to where it lies in an area. */
function copyPart(
  from: Float32Array,
  tile: Rectangle,
  to: Float32Array,
  area: Rectangle,
  part: Rectangle,
): void {
  for (let y = 0; y < part.height; y++) {
    const at = (part.y + y - tile.y) * tile.width + part.x - tile.x;
    to.set(from.subarray(at, at + part.width), (part.y + y - area.y) * area.width + part.x - area.x);
  }
}

/** A tile's encoded colours over black. */
export function overBlack(tile: LightTile): readonly Float32Array[] {
  const { planes, alpha } = inLight(tile, true);
  if (!alpha) return planes;
  const k = kernels();
  if (!k) return planes.map((p) => p.map((v, i) => v * alpha[i]));
  return k.borrow(() => {
    const share = k.upload(alpha);
    return planes.map((p) =>
      k.borrow(() => {
        const at = k.upload(p);
        k.multiplyPlanes(at, share, p.length, at);
        return k.floats(at, p.length).slice();
      }),
    );
  });
}

/**
 * What a node of light gives on an area of a level, over black: sRGB-encoded planes, unclipped, tile by tile; where the world says how what is
 * kept is evaluated, just the area's own part of each tile. What is returned may be kept elsewhere and is not to be written to.
 */
export function drawPicture(
  { nodes }: DrawnGraph,
  node: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  world: World,
): readonly Float32Array[] {
  let out: readonly Float32Array[] | undefined;
  forTiles(area, (tile, part) => {
    const drawn = world.keptAt ? part : tile;
    const value = evaluate(nodes, node, { level, area: drawn, kernel }, world);
    const planes = overBlack(lightOf(value, 'a picture'));
    // whole rows of one tile need not be copied
    if (part.width === area.width && part.height === area.height && part.width === drawn.width) {
      const first = (part.y - drawn.y) * drawn.width;
      out = planes.map((p) => p.subarray(first, first + part.height * part.width));
      return;
    }
    const whole = (out ??= [0, 1, 2].map(() => new Float32Array(area.width * area.height)));
    planes.forEach((p, c) => copyPart(p, drawn, whole[c], area, part));
  });
  return out ?? [];
}

/** What a mask gives on an area of a level, 0…1, tile by tile. */
export function drawMask(
  { nodes }: DrawnGraph,
  node: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  world: World,
): Float32Array {
  const out = new Float32Array(area.width * area.height);
  forTiles(area, (tile, part) => {
    const drawn = world.keptAt ? part : tile;
    const value = evaluate(nodes, node, { level, area: drawn, kernel }, world);
    copyPart(maskOf(value, 'a region').plane, drawn, out, area, part);
  });
  return out;
}

/**
 * What a node of light gives at a small place: evaluated for just that place, not for whole tiles. Equal to {@link drawPicture} but for the
 * rounding of sums over windows.
 */
export function drawPlace(
  { nodes }: DrawnGraph,
  node: string,
  at: At,
  world: World,
): readonly Float32Array[] {
  return overBlack(lightOf(evaluate(nodes, node, at, world), 'a picture'));
}

/** Encoded planes as opaque bytes, clipped and rounded. */
export function opaqueBytes([R, G, B]: readonly Float32Array[]): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(R.length * 4);
  const k = kernels();
  if (k)
    k.borrow(() => {
      const [r, g, b] = [R, G, B].map((p) => k.upload(p));
      const out = k.take(4 * R.length + 16);
      k.showPlanes(r, g, b, R.length, out);
      rgba.set(k.bytes(out, 4 * R.length));
    });
  else
    for (let i = 0, o = 0; i < R.length; i++, o += 4) {
      rgba[o] = R[i] * 255;
      rgba[o + 1] = G[i] * 255;
      rgba[o + 2] = B[i] * 255;
      rgba[o + 3] = 255;
    }
  return rgba;
}
