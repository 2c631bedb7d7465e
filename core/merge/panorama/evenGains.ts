import { Matrix, solve } from 'ml-matrix';
import { srgbToLinear } from '../../raster/srgb';
import { type DrawnFrame } from './frameOnCanvas';

/** What makes the frames of a panorama equally bright. */
export interface EvenGains {
  /** [frame][channel] stops to add */
  readonly stops: readonly (readonly [number, number, number])[];
  /** light that the lens loses at the corners, stops; taken back as r² */
  readonly vignette: number;
}

const DARK = 0.04;
const LIGHT = 0.93;
/** a frame is held at its own exposure by this share of what ties it to the others (Brown & Lowe 2007, eq. 29) */
const HOLD = 1e-3;
const PASSES = 4;
/** a sample that is off by more than this shows something else, stops */
const GATE = 0.35;

/**
 * Gain of every frame and channel, and the vignette that all share, by robust least squares over what pairs of frames both see (gain
 * compensation: Brown & Lowe 2007; vignette: Goldman & Chen 2005). Frames as drawn on one reduced canvas.
 */
export function evenGains(drawn: readonly (DrawnFrame | undefined)[]): EvenGains {
  const frames = drawn.length;
  const last = 3 * frames;
  const size = last + 1;
  let solution = new Float64Array(size);
  for (let pass = 0; pass < PASSES; pass++) {
    const A = Matrix.zeros(size, size);
    const b = Matrix.zeros(size, 1);
    const add = (rows: readonly number[], factors: readonly number[], value: number, w: number): void => {
      for (let i = 0; i < rows.length; i++) {
        b.set(rows[i], 0, b.get(rows[i], 0) + w * factors[i] * value);
        for (let j = 0; j < rows.length; j++)
          A.set(rows[i], rows[j], A.get(rows[i], rows[j]) + w * factors[i] * factors[j]);
      }
    };
    let used = 0;
    for (let p = 0; p < frames; p++)
      for (let q = p + 1; q < frames; q++) {
        const [f, g] = [drawn[p], drawn[q]];
        if (!f || !g) continue;
        for (let i = 0; i < f.inside.length; i += 3) {
          if (f.inside[i] < 1 || g.inside[i] < 1) continue;
          if (![0, 1, 2].every((c) => inRange(f.planes[c][i]) && inRange(g.planes[c][i]))) continue;
          const bend = f.radius[i] ** 2 - g.radius[i] ** 2;
          for (let c = 0; c < 3; c++) {
            const apart = Math.log2(srgbToLinear(g.planes[c][i]) / srgbToLinear(f.planes[c][i]));
            const off = apart - (solution[3 * p + c] - solution[3 * q + c]) - solution[last] * bend;
            const w = pass === 0 ? 1 / (1 + Math.abs(off)) : 1 / (1 + (off / GATE) ** 2) ** 2;
            add([3 * p + c, 3 * q + c, last], [1, -1, bend], apart, w);
            used++;
          }
        }
      }
    const hold = HOLD * Math.max(1, used / Math.max(1, size));
    for (let i = 0; i < last; i++) A.set(i, i, A.get(i, i) + hold);
    A.set(last, last, A.get(last, last) + hold);
    solution = Float64Array.from(solve(A, b).to1DArray());
  }
  const stops = drawn.map((_, i) => [solution[3 * i], solution[3 * i + 1], solution[3 * i + 2]] as const);
  return { stops, vignette: solution[last] };
}

const inRange = (v: number): boolean => v > DARK && v < LIGHT;
