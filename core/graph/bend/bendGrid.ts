import { type Matrix3, multiply, toLevel, transform, translation } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { coverage, warpImage } from '../../raster/warp';
import { operator } from '../operator';
import { type At } from '../tile';

/** From one grid to another. */
export interface BendSettings {
  /** new grid's pixel → old grid's pixel, full size */
  readonly matrix: Matrix3;
  /** of the old grid, full size: nothing lies beyond it */
  readonly width: number;
  readonly height: number;
}

/** Light or a mask on another grid than it was made on: a straightened picture, a merged set that is laid into another. */
export const bendGrid = operator<BendSettings>({
  kind: 'bendGrid',
  version: 1,
  gives: 'light',
  works: 'encoded',
  needs: (settings, at) => reached(settings, at),
  run: ([input], settings, at) => {
    const { area, level, kernel } = at;
    const n = area.width * area.height;
    const from = reached(settings, at)?.area;
    if (!from || !input)
      return {
        is: 'light',
        planes: [0, 1, 2].map(() => new Float32Array(n)),
        alpha: new Float32Array(n),
        encoded: true,
      };
    const map = toLevel(settings.matrix, level);
    const local = multiply(translation(-from.x, -from.y), map);
    const warped = (planes: readonly Float32Array[]): Float32Array[] => {
      const data = new Float32Array(from.width * from.height * 3);
      planes.forEach((p, c) => {
        for (let i = 0, o = c; i < p.length; i++, o += 3) data[o] = p[i];
      });
      return warpImage({ width: from.width, height: from.height, white: 1, data }, local, area, kernel);
    };
    if (input.is === 'mask') {
      const [plane] = warped([input.plane, input.plane, input.plane]);
      return { is: 'mask', plane: plane.map((v) => Math.min(1, Math.max(0, v))) };
    }
    if (input.is !== 'light') throw new Error(`a ${input.is} cannot be bent`);
    const inside = coverage(sizeAt(settings, level), map, area, 0);
    const { alpha } = input;
    if (!alpha) return { ...input, planes: warped(input.planes), alpha: inside };
    // colours are mixed by how much of them is there
    const planes = warped(input.planes.map((p) => p.map((v, i) => v * alpha[i])));
    const [opacity] = warped([alpha, alpha, alpha]);
    const share = opacity.map((v, i) => Math.min(1, Math.max(0, v)) * inside[i]);
    return {
      is: 'light',
      encoded: true,
      planes: planes.map((p) => p.map((v, i) => (opacity[i] > 1e-6 ? v / opacity[i] : 0))),
      alpha: share,
    };
  },
});

const sizeAt = ({ width, height }: BendSettings, level: number) => ({
  width: Math.ceil(width / 2 ** level),
  height: Math.ceil(height / 2 ** level),
});

/** The part of the old grid that a place of the new one shows, with room for the kernel; undefined where it shows nothing of it. */
function reached(settings: BendSettings, at: At): At | undefined {
  const map = toLevel(settings.matrix, at.level);
  const { width, height } = sizeAt(settings, at.level);
  const { area } = at;
  const corners = [0, 1, 2, 3].map((k) =>
    transform(map, area.x + (k & 1) * (area.width - 1), area.y + (k >> 1) * (area.height - 1)),
  );
  if (!corners.flat().every(Number.isFinite)) return { ...at, area: { x: 0, y: 0, width, height } };
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  const x0 = Math.max(0, Math.floor(Math.min(...xs)) - 4);
  const y0 = Math.max(0, Math.floor(Math.min(...ys)) - 4);
  const x1 = Math.min(width, Math.ceil(Math.max(...xs)) + 5);
  const y1 = Math.min(height, Math.ceil(Math.max(...ys)) + 5);
  const to: Rectangle = { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
  return x1 > x0 && y1 > y0 ? { ...at, area: to } : undefined;
}
