import { type Edit } from '../edits/edit';
import { type EditKindName } from '../edits/editKinds';
import { findEdit } from '../edits/ranked';
import { type CropRatio } from '../finish/cropRatio';
import { type FusionMeasures } from '../merge/mertensWeight';
import { type ToneWish } from '../merge/radiance/toneMap';
import { type MotionModel } from '../register/motionModel';
import { type FrameSet, type MergeMethod, type Project } from './project';

/** The settings of one step, as they are kept in the record and applied again, also in another project. */
export type Settings =
  | { readonly of: 'fit'; readonly motion: MotionModel | 'auto' }
  | {
      readonly of: 'merge';
      readonly method: MergeMethod;
      readonly merge: FusionMeasures;
      readonly tone?: ToneWish;
      readonly response: 'srgb' | 'recovered';
    }
  | {
      readonly of: 'edits';
      /** what they are the whole truth about */
      readonly kinds: readonly EditKindName[];
      readonly set: readonly Edit[];
      readonly whole: readonly Edit[];
      readonly ratio?: CropRatio;
      readonly upright?: boolean;
    };

/** Kinds that each station keeps in the record. */
export const KEPT_KINDS = {
  match: ['neutral', 'exposure', 'match', 'zones', 'saturation'],
  finish: ['noise', 'exposure', 'sharpen'],
} as const satisfies Readonly<Record<string, readonly EditKindName[]>>;

/** The present settings of a step of a set and of the whole. */
export function settingsOf(
  { edits, geometry }: Pick<Project, 'edits' | 'geometry'>,
  set: FrameSet,
  step: 'fit' | 'merge' | 'match' | 'finish',
): Settings {
  switch (step) {
    case 'fit':
      return { of: step, motion: set.motion };
    case 'merge': {
      const tone = findEdit(set.edits, 'toneMap')?.settings;
      return {
        of: step,
        method: set.method,
        merge: set.merge,
        response: set.response,
        ...(tone ? { tone } : {}),
      };
    }
    case 'match':
    case 'finish': {
      const kinds: readonly EditKindName[] = KEPT_KINDS[step];
      const kept = (list: readonly Edit[]): Edit[] => list.filter((e) => kinds.includes(e.kind));
      const { ratio, upright } = geometry;
      return {
        of: 'edits',
        kinds,
        set: step === 'match' ? kept(set.edits) : [],
        whole: kept(edits),
        ...(step === 'finish' ? { ratio, upright } : {}),
      };
    }
  }
}
