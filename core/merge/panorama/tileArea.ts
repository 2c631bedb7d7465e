import { type Rectangle } from '../../raster/raster';
import { type PanoramaPlan } from './planPanorama';

/** bands: the coarsest is smooth over 2^5 pixels */
export const LEVELS = 5;
/** what the coarsest level and its expansion reach: 2 · (2 · 2⁵ − 1) pixels, rounded up to whole cells of it */
const MARGIN = 128;

/** What of the canvas a tile is made from. */
export function tileArea({ canvas }: PanoramaPlan, tile: Rectangle): Rectangle {
  const x = Math.max(0, tile.x - MARGIN);
  const y = Math.max(0, tile.y - MARGIN);
  return {
    x,
    y,
    width: Math.min(canvas.width, tile.x + tile.width + MARGIN) - x,
    height: Math.min(canvas.height, tile.y + tile.height + MARGIN) - y,
  };
}
