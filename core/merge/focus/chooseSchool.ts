import { type LostPlaces } from './mapBand';

/** The two ways to merge a focus set: by one even map of depth, or level by level of a pyramid. */
export type FocusSchool = 'depth' | 'pyramid';

/** Which of them suits a set, and why, as a sentence. */
export interface SchoolChoice {
  readonly school: FocusSchool;
  readonly why: string;
  /** places where an even map keeps little of the detail that the sharpest frame shows, % of those with clear structure */
  readonly lost: number;
}

/** share of the picture with clear structure below which noise decides, and the map, which blends less of it, is taken */
const LEAST_CLEAR = 0.004;

/**
 * Detail by detail, unless little stands out of the noise. Measured on 12 stacks of photographs with known truth at two strengths of blur: from 0.2 dB
 * below the map, where depth runs evenly, to 4 dB above it, and never nearer than 1.3 dB to plainly taking the sharpest pixel; on the stand-in
 * scenes 0.1 to 3 dB above.
 */
export function chooseSchool({ cells, windows }: LostPlaces): SchoolChoice {
  const lost = 100 * windows.reduce((sum, [clear, own]) => sum + (clear > 0 ? own / clear : 0), 0);
  if (windows[0][0] / cells < LEAST_CLEAR)
    return {
      school: 'depth',
      lost,
      why: 'Little stands out of the noise: one even map of depth blends least of it.',
    };
  return {
    school: 'pyramid',
    lost,
    why: `Each size of detail, and the tone around it, is taken from the frame that shows it most: one even map of depth would lose the detail of ${lost.toFixed(2)} % of the clear places.`,
  };
}
