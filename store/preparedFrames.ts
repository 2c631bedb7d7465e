import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Project } from '@/core/recipe/project';
import { viewsOf } from '@/core/recipe/views';
import { type BenchState } from './bench';

/** Whether frames are used otherwise than as they were shot. */
const isPrepared = ({ set: { prepare } }: Pick<Project, 'set'>): boolean =>
  prepare.balance === 'even' || prepare.lens !== undefined;

/** The pixels that fit and merge take for a frame: of a view's head the merged bracket, of every other one the frame as its set is prepared. */
export function joinedLevels(
  state: Pick<BenchState, 'decoded' | 'prepared' | 'views'>,
  project: Pick<Project, 'frames' | 'set'>,
  hash: string,
): readonly EncodedImage[] {
  const isHead = viewsOf(project).some(({ head }) => head.hash === hash);
  return (isHead ? state.views[hash]?.made : undefined) ?? preparedLevels(state, project, hash);
}

/** The pixels of a frame as its set is prepared. */
export function preparedLevels(
  { decoded, prepared }: Pick<BenchState, 'decoded' | 'prepared'>,
  project: Pick<Project, 'set'>,
  hash: string,
): readonly EncodedImage[] {
  return (isPrepared(project) ? prepared[hash]?.made : undefined) ?? decoded[hash].levels;
}

/** Prepared frames, where the recipe asks for them. */
export function evened(project: Project, prepared: BenchState['prepared']): BenchState['prepared'] {
  return isPrepared(project) ? prepared : {};
}

/** frames are looked at this large at most, pixels of the long edge */
const LOOKED_AT = 1200;

/** What a panorama is joined from, small: one picture for each of its frames, undefined where a frame is not at hand. */
export function smallFrames(
  state: Pick<BenchState, 'decoded' | 'prepared' | 'views'>,
  project: Pick<Project, 'frames' | 'set' | 'panorama'>,
): (EncodedImage | undefined)[] {
  return (project.panorama?.frames ?? []).map((id) => {
    const frame = project.frames.find((f) => f.id === id);
    if (!frame || !state.decoded[frame.hash]) return undefined;
    const levels = joinedLevels(state, project, frame.hash);
    return (
      levels.find(({ width, height }) => Math.max(width, height) <= LOOKED_AT) ?? levels[levels.length - 1]
    );
  });
}
