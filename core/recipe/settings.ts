import { type Finish } from '../finish/finish';
import { type Adjust } from '../match/adjust';
import { type FusionMeasures } from '../merge/mertensWeight';
import { type ToneWish } from '../merge/radiance/toneMap';
import { type MotionModel } from '../register/motionModel';
import { type MergeMethod, type Project } from './project';

/** The settings of one step, as they are kept in the record and applied again, also in another project. */
export type Settings =
  | { readonly of: 'fit'; readonly motion: MotionModel | 'auto' }
  | {
      readonly of: 'merge';
      readonly method: MergeMethod;
      readonly merge: FusionMeasures;
      readonly tone: ToneWish;
      readonly response: 'srgb' | 'recovered';
    }
  | { readonly of: 'match'; readonly match: { readonly set: Adjust; readonly whole: Adjust } }
  | ({ readonly of: 'finish' } & Pick<Finish, 'exposure' | 'noise' | 'sharpen' | 'ratio' | 'upright'>);

/** The present settings of a step. */
export function settingsOf({ set, match, finish }: Project, of: Settings['of']): Settings {
  switch (of) {
    case 'fit':
      return { of, motion: set.motion };
    case 'merge':
      return { of, method: set.method, merge: set.merge, tone: set.tone, response: set.response };
    case 'match':
      return { of, match };
    case 'finish': {
      const { exposure, noise, sharpen, ratio, upright } = finish;
      return { of, exposure, noise, sharpen, ratio, upright };
    }
  }
}
