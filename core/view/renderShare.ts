import { type World } from '../graph/evaluate';
import { type Rectangle } from '../raster/raster';
import { type Kernel } from '../raster/warp';
import { forTiles, TILE } from './drawPicture';
import { renderView } from './renderView';
import { type View, type ViewScene } from './viewScene';

/** One of several that draw a view together: the same tiles always fall to the same one, so that it has kept what they are made from. */
export interface Share {
  /** from 0 */
  readonly index: number;
  readonly of: number;
}

/** Views that no pixel beside a tile has a part in. */
const BY_TILES: readonly View['kind'][] = ['result', 'finished', 'node', 'proof', 'mask'];

/** Whether an area is so small that whole tiles of it would mostly be drawn in vain. */
export const isPatch = ({ width, height }: Rectangle): boolean => width * height <= (TILE * TILE) / 2;

const ownerOf = ({ x, y }: Rectangle, of: number): number => ((x + y) / TILE) % of;

/** Which of several have something to draw on an area; one of them where a view cannot be shared. */
export function sharesOf(view: View, area: Rectangle, of: number): readonly Share[] {
  if (!BY_TILES.includes(view.kind)) return [{ index: 0, of: 1 }];
  const owners = new Set<number>();
  forTiles(area, (tile) => owners.add(ownerOf(tile, of)));
  return [...owners].map((index) => ({ index, of }));
}

/**
 * Renders the tiles of a view that fall to one of several: together they draw what {@link renderView} draws, to the last bit.
 * @param out R G B A of the whole area, `area.width * area.height * 4` bytes; what falls to others is left as it is
 */
export function renderShare(
  scene: ViewScene,
  view: View,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  world: World | undefined,
  { index, of }: Share,
  out: Uint8ClampedArray,
): void {
  if (of === 1) return out.set(renderView(scene, view, level, area, kernel, world));
  forTiles(area, (tile, part) => {
    if (ownerOf(tile, of) !== index) return;
    const rgba = renderView(scene, view, level, part, kernel, world);
    for (let y = 0; y < part.height; y++) {
      const row = rgba.subarray(y * part.width * 4, (y + 1) * part.width * 4);
      out.set(row, ((part.y + y - area.y) * area.width + part.x - area.x) * 4);
    }
  });
}
