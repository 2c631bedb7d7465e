import { croppedPlane } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { grownAt } from '../../graph/place';
import { maskOf } from '../../graph/wanted';

/** The two lengths of an octagon that stands for a disc: half a side along the axes, and along the diagonals. */
function octagon(radius: number): { readonly straight: number; readonly slanted: number } {
  return {
    straight: Math.round((Math.SQRT2 - 1) * radius),
    slanted: Math.round((1 - Math.SQRT1_2) * radius),
  };
}

const reachOf = (radius: number): number => {
  const { straight, slanted } = octagon(radius);
  return straight + 2 * slanted;
};

/** A mask that reaches further by so many pixels, or less far: the largest (or least) value within an octagon about each place. */
export const growMask = operator<{ readonly by: number }>({
  kind: 'growMask',
  version: 1,
  gives: 'mask',
  needs: ({ by }, at) => grownAt(at, reachOf(Math.abs(by) / 2 ** at.level)),
  run: ([input], { by }, { level, area }) => {
    const radius = Math.abs(by) / 2 ** level;
    const margin = reachOf(radius);
    const { plane } = maskOf(input, 'a region that grows');
    if (margin === 0) return { is: 'mask', plane };
    const [width, height] = [area.width + 2 * margin, area.height + 2 * margin];
    const own = by < 0 ? plane.map((v) => 1 - v) : plane;
    const grown = croppedPlane(octagonMaximum(own, width, height, radius), width, height, margin);
    return { is: 'mask', plane: by < 0 ? grown.map((v) => 1 - v) : grown };
  },
});

/** The largest value within an octagon about each pixel: running maxima along four directions, one after the other. */
export function octagonMaximum(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
): Float32Array {
  const { straight, slanted } = octagon(radius);
  const out = plane.slice();
  const line = (first: number, step: number, count: number, half: number): void => {
    if (half > 0 && count > 0) runningMaximum(out, first, step, count, half);
  };
  for (let y = 0; y < height; y++) line(y * width, 1, width, straight);
  for (let x = 0; x < width; x++) line(x, width, height, straight);
  for (let k = 1 - height; k < width; k++) {
    const x = Math.max(0, k);
    const y = Math.max(0, -k);
    line(y * width + x, width + 1, Math.min(width - x, height - y), slanted);
  }
  for (let k = 0; k < width + height - 1; k++) {
    const x = Math.min(width - 1, k);
    const y = k - x;
    line(y * width + x, width - 1, Math.min(x + 1, height - y), slanted);
  }
  return out;
}

/** Maxima over 2 · half + 1 places along a line, in place, at a cost that does not grow with them (van Herk 1992). */
function runningMaximum(data: Float32Array, first: number, step: number, count: number, half: number): void {
  const window = 2 * half + 1;
  const padded = count + 2 * half;
  const at = (i: number): number =>
    i < half || i >= count + half ? -Infinity : data[first + (i - half) * step];
  const forward = new Float32Array(padded);
  const backward = new Float32Array(padded);
  for (let i = 0; i < padded; i++) forward[i] = i % window === 0 ? at(i) : Math.max(forward[i - 1], at(i));
  for (let i = padded - 1; i >= 0; i--)
    backward[i] = i === padded - 1 || (i + 1) % window === 0 ? at(i) : Math.max(backward[i + 1], at(i));
  for (let i = 0; i < count; i++) data[first + i * step] = Math.max(backward[i], forward[i + window - 1]);
}
