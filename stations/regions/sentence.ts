import { PART_KINDS } from '@/core/region/partKinds';
import { type PartKind } from '@/core/region/partKind';
import { type Part, type Region } from '@/core/region/region';
import { REGION_TEXT as TEXT } from './text';

/** What a part is, a few words. */
export const partSays = ({ kind, settings }: Part): string =>
  (PART_KINDS[kind] as unknown as PartKind<object>).says(settings);

/** A region as a part of a sentence: “in the sky”, “where tones −1 to +3 EV, but not 2 strokes”. */
export function regionSentence(region: Region): string {
  if (region.name !== '') return `in ${region.name}`;
  const parts = region.parts.filter((p) => p.on);
  if (parts.length === 0) return '';
  const words = parts.map(({ how, turned, part }, i) => {
    const join = i > 0 ? `${TEXT.joins[how]} ` : how === 'remove' ? 'not ' : '';
    return `${join}${turned ? 'outside of ' : ''}${partSays(part)}`;
  });
  return `where ${words.join(', ')}${region.invert ? ', turned' : ''}`;
}
