import { evaluate } from '../graph/evaluate';
import { inLight } from '../graph/light';
import { lightOf } from '../graph/wanted';
import { type Rectangle } from '../raster/raster';
import { forTiles } from './drawPicture';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/**
 * One layer by itself as a layered file holds it: its colours, straight, and how much of them is there.
 * @param node of the layer alone, finished
 * @param area of the straightened picture at full size
 * @returns R G B A, 8 bit, straight alpha
 */
export function layerPicture({ nodes, made }: DrawnGraph, node: string, area: Rectangle): Uint8Array {
  const out = new Uint8Array(area.width * area.height * 4);
  const world = plainWorld(made);
  forTiles(area, (tile, part) => {
    const value = evaluate(nodes, node, { level: 0, area: tile, kernel: 'lanczos' }, world);
    const { planes, alpha } = inLight(lightOf(value, 'a layer'), true);
    for (let y = part.y; y < part.y + part.height; y++)
      for (let x = part.x; x < part.x + part.width; x++) {
        const i = (y - tile.y) * tile.width + x - tile.x;
        const o = 4 * ((y - area.y) * area.width + x - area.x);
        for (let c = 0; c < 3; c++) out[o + c] = Math.min(255, Math.max(0, planes[c][i] * 255 + 0.5));
        out[o + 3] = (alpha ? Math.min(1, Math.max(0, alpha[i])) : 1) * 255 + 0.5;
      }
  });
  return out;
}
