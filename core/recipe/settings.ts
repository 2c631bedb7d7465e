import { type Edit } from '../edits/edit';
import { type EditKindName } from '../edits/editKinds';
import { findEdit } from '../edits/ranked';
import { type FrameSet, type Project, type Settings } from './project';

/** Kinds that each station keeps in the record. */
export const KEPT_KINDS = {
  match: ['chart', 'neutral', 'exposure', 'match', 'zones', 'saturation', 'hues', 'tint'],
  finish: ['noise', 'exposure', 'soften', 'sharpen', 'grain'],
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
