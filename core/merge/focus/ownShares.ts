/** One frame's cells for {@link ownShares}. */
export interface FrameCells {
  /** energy; below 0 where the frame does not reach */
  readonly fine: Float32Array;
  /** the energy's mean over near cells */
  readonly smooth: Float32Array;
  readonly grey: Float32Array;
}

/** What each place says by itself. */
export interface OwnShares {
  /** luminance of the sharpest frame */
  readonly guide: Float32Array;
  /** how surely the place speaks, 0…1: one frame stands out of the others and of the noise */
  readonly sure: Float32Array;
  /** [frame] the third power of its energy among the third powers of all, times how sure it is */
  readonly weighted: readonly Float32Array[];
}

const TINY = 1e-30;
/** noise and energy that make a place unsure */
const NOISES = 3;
const UNSURE = 2e-6;

/** Energy that makes a place half sure. @param noise of each frame's energy */
export function unsureEnergy(noise: readonly number[]): number {
  return NOISES * Math.max(...noise) + UNSURE;
}

/** A picture of the sharpest, how surely each place speaks, and each frame's share: the plain form of the kernel of the same name. */
export function ownShares(frames: readonly FrameCells[], unsure: number): OwnShares {
  const n = frames[0].fine.length;
  const guide = new Float32Array(n);
  const sure = new Float32Array(n);
  const weighted = frames.map(() => new Float32Array(n));
  for (let i = 0; i < n; i++) {
    let [best, sum, cubes] = [-1, 0, 0];
    for (let f = 0; f < frames.length; f++) {
      if (frames[f].fine[i] < 0) continue;
      const e = frames[f].smooth[i];
      sum += e;
      cubes += e * e * e;
      if (best < 0 || e > frames[best].smooth[i]) best = f;
    }
    guide[i] = frames[Math.max(0, best)].grey[i];
    if (best < 0) continue;
    const top = frames[best].smooth[i];
    const stands = frames.length > 1 ? (top - (sum - top) / (frames.length - 1)) / (top + 1e-12) : 1;
    sure[i] = Math.max(0, stands) * (top / (top + unsure));
    for (let f = 0; f < frames.length; f++) {
      const e = frames[f].smooth[i];
      if (frames[f].fine[i] >= 0) weighted[f][i] = (sure[i] * e * e * e) / (cubes + TINY);
    }
  }
  return { guide, sure, weighted };
}
