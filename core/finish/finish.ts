import { type Rectangle } from '../raster/raster';
import { type Sharpen } from './sharpen';
import { type Straighten } from './straighten';

/** Crop ratios on offer, width to height; the long side lies as the picture lies. */
export const CROP_RATIOS = { free: undefined, '2:3': 3 / 2, '4:5': 5 / 4, '1:1': 1, '2:1': 2 } as const;

export type CropRatio = keyof typeof CROP_RATIOS;

/** The last step: what is kept and how bright it is. */
export interface Finish {
  readonly ratio: CropRatio;
  /** stand the ratio upright */
  readonly upright: boolean;
  /** full-size pixels of the reference; undefined means the proposed rectangle */
  readonly crop?: Rectangle;
  /** stops */
  readonly exposure: number;
  readonly straighten: Straighten;
  /** noise reduction: 0 none … 1 everything that is taken for noise */
  readonly noise: number;
  readonly sharpen: Sharpen;
}

/** Noise is halved and edges are left as they are (common practice: half of what removes everything; all of it looks plastic). */
export const FINISH: Finish = {
  ratio: 'free',
  upright: false,
  exposure: 0,
  straighten: {},
  noise: 0.5,
  sharpen: { radius: 1.7, amount: 0, edge: 0.25 },
};

/** Width over height that a ratio asks for, or `free`. */
export function ratioValue({ ratio, upright }: Pick<Finish, 'ratio' | 'upright'>): number | 'free' {
  const value = CROP_RATIOS[ratio];
  return value === undefined ? 'free' : upright ? 1 / value : value;
}
