import { gaussianBlur } from '../../raster/gaussianBlur';

/** sigmas over which slopes are taken, and over which their direction is evened, pixels */
const SLOPE = 1;
const ALONG = 4;

/** The way in which light changes least at each pixel, of length 1; either way round. */
export interface Flow {
  readonly x: Float32Array;
  readonly y: Float32Array;
}

/** The direction of streaks: the eigenvector of the smaller eigenvalue of the structure tensor (Weickert, *Anisotropic Diffusion in Image Processing*, 1998). */
export function flowOf(luma: Float32Array, width: number, height: number): Flow {
  const soft = gaussianBlur(luma, width, height, SLOPE);
  const n = luma.length;
  const [xx, xy, yy] = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const gx = soft[y * width + Math.min(width - 1, x + 1)] - soft[y * width + Math.max(0, x - 1)];
      const gy = soft[Math.min(height - 1, y + 1) * width + x] - soft[Math.max(0, y - 1) * width + x];
      xx[i] = gx * gx;
      xy[i] = gx * gy;
      yy[i] = gy * gy;
    }
  const [a, b, c] = [xx, xy, yy].map((p) => gaussianBlur(p, width, height, ALONG));
  const flow = { x: new Float32Array(n), y: new Float32Array(n) };
  for (let i = 0; i < n; i++) {
    const half = (a[i] - c[i]) / 2;
    // of the larger eigenvalue: (half + root, b); square to it is the flow
    const root = Math.sqrt(half * half + b[i] * b[i]);
    const [u, v] = half >= 0 ? [-b[i], half + root] : [half - root, b[i]];
    const length = Math.sqrt(u * u + v * v);
    flow.x[i] = length > 0 ? u / length : 1;
    flow.y[i] = length > 0 ? v / length : 0;
  }
  return flow;
}

/**
 * Planes averaged along the flow, as a longer exposure averages what moves along it (line integral convolution: Cabral and Leedom 1993).
 * @param reach to either side, pixels
 */
export function flowBlur(
  planes: readonly Float32Array[],
  { x: fx, y: fy }: Flow,
  width: number,
  height: number,
  reach: number,
): Float32Array[] {
  const out = planes.map((p) => new Float32Array(p.length));
  const steps = Math.max(1, Math.round(reach));
  const sum = new Float64Array(planes.length);
  for (let y0 = 0; y0 < height; y0++)
    for (let x0 = 0; x0 < width; x0++) {
      const i0 = y0 * width + x0;
      planes.forEach((p, c) => (sum[c] = p[i0]));
      let count = 1;
      for (const side of [1, -1]) {
        let [x, y] = [x0, y0];
        let [dx, dy] = [side * fx[i0], side * fy[i0]];
        for (let k = 0; k < steps; k++) {
          x += dx;
          y += dy;
          const [ix, iy] = [Math.round(x), Math.round(y)];
          if (ix < 0 || iy < 0 || ix >= width || iy >= height) break;
          const i = iy * width + ix;
          for (let c = 0; c < planes.length; c++) sum[c] += planes[c][i];
          count++;
          // a direction has two ends: go on by the one that leads on
          const on = fx[i] * dx + fy[i] * dy < 0 ? -1 : 1;
          [dx, dy] = [on * fx[i], on * fy[i]];
        }
      }
      for (let c = 0; c < planes.length; c++) out[c][i0] = sum[c] / count;
    }
  return out;
}
