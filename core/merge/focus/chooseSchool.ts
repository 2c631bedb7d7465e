import { type FocusEnergy } from './focusEnergy';
import { type FocusMap } from './focusMap';

/** The two ways to merge a focus set: by one even map of depth, or level by level of a pyramid. */
export type FocusSchool = 'depth' | 'pyramid';

/** Which of them suits a set, and why, as a sentence. */
export interface SchoolChoice {
  readonly school: FocusSchool;
  readonly why: string;
  /** places whose own sharpest frame an even map would not take, % of those that show clear structure */
  readonly crossing: number;
}

/** structure that speaks for itself: energy over that of the noise, and at least */
const CLEAR = 20;
const LEAST = 1e-4;
/** a frame stands out when no other has more than this share of its energy, and is passed over when the map gives it less than this */
const STANDS_OUT = 0.5;
const PASSED_OVER = 0.25;
/**
 * Above this share the pyramid is nearer to the truth: measured on the stand-in scenes, 0.3 to 0.7 % before the mill, where the map is 1 to
 * 2 dB better, 1.9 to 3.8 % among the samphire's stems, where the pyramid is 0.7 to 1.5 dB better.
 */
const CROSSING = 1.3;
/** share of the picture with clear structure below which noise decides, and the map, which blends less of it, is taken */
const LEAST_CLEAR = 0.01;

/** Compares the depth map with what each place says by itself. */
export function chooseSchool(frames: readonly FocusEnergy[], map: FocusMap): SchoolChoice {
  let clear = 0;
  let crossed = 0;
  const cells = map.width * map.height;
  for (let i = 0; i < cells; i++) {
    let best = 0;
    for (let f = 1; f < frames.length; f++) if (frames[f].fine[i] > frames[best].fine[i]) best = f;
    const top = frames[best].fine[i];
    if (top < CLEAR * frames[best].noise + LEAST) continue;
    clear++;
    const alone = frames.every((f, k) => k === best || f.fine[i] < STANDS_OUT * top);
    if (alone && map.planes[best][i] < PASSED_OVER) crossed++;
  }
  const crossing = clear > 0 ? (100 * crossed) / clear : 0;
  if (clear < LEAST_CLEAR * cells)
    return {
      school: 'depth',
      crossing,
      why: 'Little stands out of the noise: one even map of depth blends least of it.',
    };
  const said = `${crossing.toFixed(1)} % of the clear places would not come from their own sharpest frame`;
  return crossing > CROSSING
    ? {
        school: 'pyramid',
        crossing,
        why: `Depth changes from stem to stem: with one even map ${said}. Each size of detail is taken from the frame that shows it most.`,
      }
    : {
        school: 'depth',
        crossing,
        why: `Depth runs evenly: with one even map only ${said}. It keeps outlines whole and blends frames that are equally sharp, which lowers noise.`,
      };
}
