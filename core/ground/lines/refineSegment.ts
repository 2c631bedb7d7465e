import { type Segment } from '../../raster/straightSegments';
import { length2 } from '../../raster/length';

/** how far to either side of a segment its edge is looked for, and in what steps, pixels */
const REACH = 2;
const STEP = 0.5;
/** an edge that lies farther from the rest of its line does not count, pixels */
const STRAY = 0.7;

/**
 * A segment moved onto its edge to a small part of a pixel: across it the middle of the slope is taken at every pixel of its length, and a line is laid through them.
 * @param luma [pixel] 0…1
 */
export function refineSegment(luma: Float32Array, width: number, height: number, segment: Segment): Segment {
  const { x0, y0, x1, y1 } = segment;
  const length = length2(x1 - x0, y1 - y0);
  const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
  const [nx, ny] = [-uy, ux];
  const at = (x: number, y: number): number => {
    const [cx, cy] = [Math.min(width - 1.001, Math.max(0, x)), Math.min(height - 1.001, Math.max(0, y))];
    const [ix, iy] = [Math.floor(cx), Math.floor(cy)];
    const [a, b] = [cx - ix, cy - iy];
    const i = iy * width + ix;
    return (
      (1 - b) * ((1 - a) * luma[i] + a * luma[i + 1]) +
      b * ((1 - a) * luma[i + width] + a * luma[i + width + 1])
    );
  };
  const slopeAt = (t: number, o: number): number => {
    const [x, y] = [x0 + t * ux + o * nx, y0 + t * uy + o * ny];
    return at(x + nx / 2, y + ny / 2) - at(x - nx / 2, y - ny / 2);
  };
  let rise = 0;
  for (let t = 0; t <= length; t++) rise += slopeAt(t, 0);
  const side = rise < 0 ? -1 : 1;
  const places: { t: number; o: number; weight: number }[] = [];
  for (let t = 0; t <= length; t++) {
    let [sum, moment] = [0, 0];
    for (let o = -REACH; o <= REACH; o += STEP) {
      const slope = Math.max(0, side * slopeAt(t, o)) ** 2;
      sum += slope;
      moment += o * slope;
    }
    if (sum > 0) places.push({ t: t - length / 2, o: moment / sum, weight: Math.sqrt(sum) });
  }
  let [offset, turn] = [0, 0];
  for (const near of [REACH, 2 * STRAY, STRAY]) {
    let [w, wt, wo, wtt, wto] = [0, 0, 0, 0, 0];
    for (const { t, o, weight } of places) {
      if (Math.abs(o - offset - turn * t) > near) continue;
      w += weight;
      wt += weight * t;
      wo += weight * o;
      wtt += weight * t * t;
      wto += weight * t * o;
    }
    const det = w * wtt - wt * wt;
    if (!(det > 1e-9 * wtt * w)) return segment;
    turn = (w * wto - wt * wo) / det;
    offset = (wo - turn * wt) / w;
  }
  const moved = (t: number): readonly [number, number] => {
    const o = offset + turn * t;
    return [x0 + (t + length / 2) * ux + o * nx, y0 + (t + length / 2) * uy + o * ny];
  };
  const [a, b] = [moved(-length / 2), moved(length / 2)];
  return { x0: a[0], y0: a[1], x1: b[0], y1: b[1] };
}
