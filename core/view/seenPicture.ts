import { evaluate } from '../graph/evaluate';
import { inLight } from '../graph/light';
import { lightOf, maskOf } from '../graph/wanted';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/** A node of light on a rectangle of a level, and where of it is shown. */
export interface SeenNode {
  readonly drawn: DrawnGraph;
  readonly node: string;
  /** node of a mask; shown everywhere when absent */
  readonly mask?: string;
  readonly level: number;
  readonly area: Rectangle;
}

/** A node of light as a small picture in 16-bit codes, its opacity as much as is shown of it. */
export function seenPicture({ drawn, node, mask, level, area }: SeenNode): EncodedImage {
  const world = plainWorld(drawn.made);
  const at = { level, area, kernel: 'lanczos' } as const;
  const { planes, alpha } = inLight(lightOf(evaluate(drawn.nodes, node, at, world), 'a match'), true);
  const shown = mask ? maskOf(evaluate(drawn.nodes, mask, at, world), 'a match').plane : undefined;
  const { width, height } = area;
  const data = new Uint16Array(3 * width * height);
  planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) data[3 * i + c] = Math.max(0, Math.min(1, plane[i])) * 65535 + 0.5;
  });
  if (!alpha && !shown) return { width, height, white: 65535, data };
  const opacity = new Uint8Array(data.length);
  for (let i = 0; i < width * height; i++) {
    const share = (alpha ? alpha[i] : 1) * (shown ? shown[i] : 1);
    opacity.fill(Math.max(0, Math.min(1, share)) * 255 + 0.5, 3 * i, 3 * i + 3);
  }
  return { width, height, white: 65535, data, alpha: opacity };
}
