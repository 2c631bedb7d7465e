import { type Project } from '@/core/recipe/project';
import { type Change } from './history';
import { type Session } from './session';

/** A project as it lies in the browser, with where the user was and what can be taken back. */
export interface StoredProject {
  readonly id: string;
  readonly changed: string;
  readonly project: Project;
  readonly session: Session;
  readonly past: readonly Change[];
  readonly future: readonly Change[];
  /** small JPEG of the finished picture; new ones are kept apart */
  readonly preview?: Uint8Array;
  /** the tab that writes it */
  readonly holder?: string;
  /** lines of that tab's journal that are contained */
  readonly saved?: number;
}
