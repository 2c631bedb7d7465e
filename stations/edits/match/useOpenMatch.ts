'use client';
import { openEditOf, targetOf } from '@/store/edits/openEdit';
import { matchedFrame, onPictureGrid } from '@/store/matchSides';
import { useBench } from '../../benchContext';

/** What the open match is like, for what is looked at beside it. */
export interface OpenMatch {
  /** frame that it is like; undefined for what lies about a layer */
  readonly frame: string | undefined;
  /** the same where it lies on the grid of the picture */
  readonly onGrid: string | undefined;
}

/** The match that is open at Match and solved. */
export function useOpenMatch(): OpenMatch | undefined {
  const found = useBench((state) => {
    const edit = openEditOf(state);
    const isSolved = edit?.kind === 'match' && edit.settings.curves.length > 0;
    if (state.session.station !== 'match' || !isSolved) return { isOpen: false };
    const { project } = state.history;
    const id = matchedFrame(project, targetOf(state));
    const frame = project.frames.find((f) => f.id === id);
    return { isOpen: true, frame: id, onGrid: frame && onPictureGrid(project, frame) ? id : undefined };
  });
  return found.isOpen ? { frame: found.frame, onGrid: found.onGrid } : undefined;
}
