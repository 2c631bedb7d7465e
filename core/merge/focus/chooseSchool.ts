import { boxMean } from '../../mask/guidedFilter';
import { type FocusEnergy } from './focusEnergy';
import { type FocusMap } from './focusMap';

/** The two ways to merge a focus set: by one even map of depth, or level by level of a pyramid. */
export type FocusSchool = 'depth' | 'pyramid';

/** Which of them suits a set, and why, as a sentence. */
export interface SchoolChoice {
  readonly school: FocusSchool;
  readonly why: string;
  /** places where an even map keeps little of the detail that the sharpest frame shows, % of those with clear structure */
  readonly lost: number;
}

/** structure that speaks for itself: energy over that of the noise, and at least */
const CLEAR = 20;
const LEAST = 1e-4;
/** little of the detail: less than this share of its energy */
const LITTLE = 0.4;
/** cells to each side over which energy is averaged: stems, and leaves; single cells differ by the blocks of a JPEG and by resampling */
const WINDOWS = [1, 5] as const;
/**
 * Above this share, both windows together, the pyramid is nearer to the truth. Measured on the stand-in scenes: 0.0 to 0.3 % before the mill,
 * where the map is 1 to 2 dB better; 0.6 to 5 % among the samphire's stems, where the pyramid is 0.7 to 3 dB better.
 */
const MOST_LOST = 0.45;
/** share of the picture with clear structure below which noise decides, and the map, which blends less of it, is taken */
const LEAST_CLEAR = 0.004;

/** Compares what the depth map takes with the sharpest that each place has. */
export function chooseSchool(frames: readonly FocusEnergy[], map: FocusMap): SchoolChoice {
  const found = WINDOWS.map((reach) => lostShare(frames, map, reach));
  const lost = 100 * found.reduce((sum, f) => sum + f.lost, 0);
  if (found[0].clear < LEAST_CLEAR)
    return {
      school: 'depth',
      lost,
      why: 'Little stands out of the noise: one even map of depth blends least of it.',
    };
  const said = `one even map would lose the detail of ${lost.toFixed(2)} % of the clear places`;
  return lost > MOST_LOST
    ? {
        school: 'pyramid',
        lost,
        why: `Depth changes from stem to stem: ${said}. Each size of detail is taken from the frame that shows it most.`,
      }
    : {
        school: 'depth',
        lost,
        why: `Depth runs evenly: ${said}. It keeps outlines whole and blends frames that are equally sharp, which lowers noise.`,
      };
}

/** Shares 0…1: of clear places among all cells, and of those among them that the map makes with little of their detail. */
function lostShare(
  frames: readonly FocusEnergy[],
  { planes, width, height }: FocusMap,
  reach: number,
): { clear: number; lost: number } {
  const energy = frames.map((f) =>
    boxMean(
      f.fine.map((v) => (v > 0 ? v : 0)),
      width,
      height,
      reach,
    ),
  );
  const floor = CLEAR * Math.max(...frames.map((f) => f.noise)) + LEAST;
  let clear = 0;
  let lost = 0;
  for (let i = 0; i < width * height; i++) {
    let [most, taken] = [0, 0];
    for (let f = 0; f < energy.length; f++) {
      most = Math.max(most, energy[f][i]);
      taken += planes[f][i] * energy[f][i];
    }
    if (most < floor) continue;
    clear++;
    if (taken < LITTLE * most) lost++;
  }
  return { clear: clear / (width * height), lost: clear > 0 ? lost / clear : 0 };
}
