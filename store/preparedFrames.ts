import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Project } from '@/core/recipe/project';
import { type BenchState } from './bench';

/** Whether frames are used otherwise than as they were shot. */
const isPrepared = ({ set: { prepare } }: Project): boolean =>
  prepare.balance === 'even' || prepare.lens !== undefined;

/** The pixels of a frame as its set is prepared. */
export function preparedLevels(
  { decoded, prepared }: Pick<BenchState, 'decoded' | 'prepared'>,
  project: Project,
  hash: string,
): readonly EncodedImage[] {
  return (isPrepared(project) ? prepared[hash]?.made : undefined) ?? decoded[hash].levels;
}

/** Prepared frames, where the recipe asks for them. */
export function evened(project: Project, prepared: BenchState['prepared']): BenchState['prepared'] {
  return isPrepared(project) ? prepared : {};
}
