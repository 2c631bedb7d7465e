import { type Structure } from './structureTensor';

const CELLS = 4;
const ANGLES = 8;
/** numbers that describe a point */
export const DESCRIPTOR = CELLS * CELLS * ANGLES;
/** products of two still fit 32 bits */
export const DESCRIPTOR_LENGTH = 512;
/** samples along a side of the described square, and their spacing in pixels of the level */
const SAMPLES = 16;
const SPACING = 1.3;

/** One sample of the described square: its place, its weight, and the cells that it counts in. */
interface DescriptorSample {
  readonly du: number;
  readonly dv: number;
  readonly weight: number;
  /** first number of each cell, and its share */
  readonly cells: readonly (readonly [at: number, share: number])[];
}

const PATTERN: readonly DescriptorSample[] = Array.from({ length: SAMPLES * SAMPLES }, (_, k) => {
  const [i, j] = [k % SAMPLES, Math.floor(k / SAMPLES)];
  const [du, dv] = [i - (SAMPLES - 1) / 2, j - (SAMPLES - 1) / 2];
  const near = (place: number): (readonly [number, number])[] => {
    const at = (place + 0.5) / 4 - 0.5;
    const first = Math.floor(at);
    const both = [
      [first, first + 1 - at],
      [first + 1, at - first],
    ] as const;
    return both.filter(([cell]) => cell >= 0 && cell < CELLS);
  };
  return {
    du: du * SPACING,
    dv: dv * SPACING,
    weight: Math.exp(-(du * du + dv * dv) / (2 * 8 * 8)),
    cells: near(j).flatMap(([y, wy]) =>
      near(i).map(([x, wx]): [number, number] => [(y * CELLS + x) * ANGLES, wx * wy]),
    ),
  };
});

/**
 * What surrounds a point: histograms of gradient directions in 4 × 4 cells of 8 directions (Lowe 2004), length 1.
 * @param turn of the described square against the picture, radians; directions count against it
 */
export function describe(
  { x: gx, y: gy }: Pick<Structure, 'x' | 'y'>,
  width: number,
  cx: number,
  cy: number,
  turn = 0,
): Float32Array {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const out = new Float32Array(DESCRIPTOR);
  for (const { du, dv, weight, cells } of PATTERN) {
    const u = cx + cos * du - sin * dv;
    const v = cy + sin * du + cos * dv;
    const iu = Math.floor(u);
    const iv = Math.floor(v);
    const fu = u - iu;
    const fv = v - iv;
    const at = iv * width + iu;
    const down = at + width;
    const sx =
      (1 - fv) * ((1 - fu) * gx[at] + fu * gx[at + 1]) + fv * ((1 - fu) * gx[down] + fu * gx[down + 1]);
    const sy =
      (1 - fv) * ((1 - fu) * gy[at] + fu * gy[at + 1]) + fv * ((1 - fu) * gy[down] + fu * gy[down + 1]);
    const size = Math.sqrt(sx * sx + sy * sy);
    if (size === 0) continue;
    const along = (((Math.atan2(sy, sx) - turn) / (2 * Math.PI)) * ANGLES + 2 * ANGLES) % ANGLES;
    const angle = Math.floor(along);
    const next = along - angle;
    const here = angle % ANGLES;
    const beside = (angle + 1) % ANGLES;
    for (const [cell, share] of cells) {
      const w = size * weight * share;
      out[cell + here] += w * (1 - next);
      out[cell + beside] += w * next;
    }
  }
  unit(out);
  // a single strong edge must not be all there is (Lowe 2004)
  for (let k = 0; k < DESCRIPTOR; k++) out[k] = Math.min(0.2, out[k]);
  unit(out);
  return out;
}

function unit(v: Float32Array): void {
  let sum = 0;
  for (const a of v) sum += a * a;
  const k = sum > 0 ? 1 / Math.sqrt(sum) : 0;
  for (let i = 0; i < v.length; i++) v[i] *= k;
}

/** Descriptors as whole numbers, one after the other. */
export function packed(descriptors: readonly Float32Array[]): Int16Array {
  const out = new Int16Array(descriptors.length * DESCRIPTOR);
  descriptors.forEach((d, i) =>
    d.forEach((v, k) => (out[i * DESCRIPTOR + k] = Math.round(v * DESCRIPTOR_LENGTH))),
  );
  return out;
}
