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
  const shared = drawn.flatMap((f, p) =>
    drawn.slice(p + 1).flatMap((g, k) => {
      const samples = f && g ? samplesOf(f, g) : NO_SAMPLES;
      return samples.bend.length > 0 ? [{ p, q: p + 1 + k, ...samples }] : [];
    }),
  );
  const used = shared.reduce((sum, { apart }) => sum + apart.length, 0);
  const hold = HOLD * Math.max(1, used / size);
  let solution = new Float64Array(size);
  for (let pass = 0; pass < PASSES; pass++) {
    const A = Matrix.zeros(size, size);
    const b = Matrix.zeros(size, 1);
    for (const { p, q, bend, apart } of shared)
      for (let c = 0; c < 3; c++) {
        const tie = solution[3 * p + c] - solution[3 * q + c];
        let [w0, wb, wbb, wv, wbv] = [0, 0, 0, 0, 0];
        for (let i = 0; i < bend.length; i++) {
          const value = apart[3 * i + c];
          const off = value - tie - solution[last] * bend[i];
          const w = pass === 0 ? 1 / (1 + Math.abs(off)) : 1 / (1 + (off / GATE) ** 2) ** 2;
          w0 += w;
          wb += w * bend[i];
          wbb += w * bend[i] * bend[i];
          wv += w * value;
          wbv += w * bend[i] * value;
        }
        const rows = [3 * p + c, 3 * q + c, last];
        const sums = [
          [w0, -w0, wb],
          [-w0, w0, -wb],
          [wb, -wb, wbb],
        ];
        [wv, -wv, wbv].forEach((v, i) => {
          b.set(rows[i], 0, b.get(rows[i], 0) + v);
          rows.forEach((row, j) => A.set(rows[i], row, A.get(rows[i], row) + sums[i][j]));
        });
      }
    for (let i = 0; i < size; i++) A.set(i, i, A.get(i, i) + hold);
    solution = Float64Array.from(solve(A, b).to1DArray());
  }
  const stops = drawn.map((_, i) => [solution[3 * i], solution[3 * i + 1], solution[3 * i + 2]] as const);
  return { stops, vignette: solution[last] };
}

/** What two frames both see: how much farther from the middle the first sees it (r²), and R G B stops of the second over the first. */
interface Samples {
  readonly bend: readonly number[];
  readonly apart: readonly number[];
}

const NO_SAMPLES: Samples = { bend: [], apart: [] };
/** of so many cells one is taken */
const EVERY = 3;

function samplesOf(f: DrawnFrame, g: DrawnFrame): Samples {
  const [bend, apart]: [number[], number[]] = [[], []];
  for (let i = 0; i < f.inside.length; i += EVERY) {
    if (f.inside[i] < 1 || g.inside[i] < 1) continue;
    if (![0, 1, 2].every((c) => inRange(f.planes[c][i]) && inRange(g.planes[c][i]))) continue;
    bend.push(f.radius[i] ** 2 - g.radius[i] ** 2);
    for (let c = 0; c < 3; c++)
      apart.push(Math.log2(srgbToLinear(g.planes[c][i]) / srgbToLinear(f.planes[c][i])));
  }
  return { bend, apart };
}

const inRange = (v: number): boolean => v > DARK && v < LIGHT;
