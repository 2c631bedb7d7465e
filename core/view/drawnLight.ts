import { type LightGrid } from '../cutout/lightGrid';
import { srgbToLinear } from '../raster/srgb';
import { drawPicture } from './drawPicture';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/** The light of a drawn picture, small. @param size of its grid, full-size pixels @param longEdge it is at most so large */
export function drawnLight(
  drawn: DrawnGraph,
  node: string,
  { width, height }: { readonly width: number; readonly height: number },
  longEdge: number,
): LightGrid {
  const level = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / longEdge)));
  const area = { x: 0, y: 0, width: Math.max(1, width >> level), height: Math.max(1, height >> level) };
  const planes = drawPicture(drawn, node, level, area, 'bilinear', plainWorld(drawn.made));
  const data = new Float32Array(3 * area.width * area.height);
  planes.forEach((plane, c) =>
    plane.forEach((v, i) => (data[3 * i + c] = srgbToLinear(Math.min(1, Math.max(0, v))))),
  );
  return { width: area.width, height: area.height, data };
}
