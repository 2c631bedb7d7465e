import { type Project } from '@/core/recipe/project';
import { type Change } from '../history';
import { type Session } from '../session';
import { type Difference, differing } from './difference';

/** What is kept of a project: the recipe, what can be taken back and done again, and where the user was. */
export interface KeptState {
  readonly project: Project;
  readonly past: readonly Change[];
  readonly future: readonly Change[];
  readonly session: Session;
}

/** One change, kept before the whole state is. */
export interface JournalLine {
  readonly project: string;
  /** the tab that wrote it */
  readonly holder: string;
  /** 1, 2, 3 … since the tab opened the project */
  readonly line: number;
  readonly change: Difference;
}

/**
 * The state that a journal leads to: its lines after `saved`, in order, up to the first that is missing or does not fit.
 * @param state that contains the first `saved` lines
 */
export function replayed(state: KeptState, saved: number, lines: readonly JournalLine[]): KeptState {
  let now = state;
  let last = saved;
  for (const { line, change } of [...lines].sort((a, b) => a.line - b.line)) {
    if (line <= saved) continue;
    if (line !== last + 1) return now;
    try {
      now = differing(now, change) as KeptState;
    } catch {
      return now;
    }
    last = line;
  }
  return now;
}
