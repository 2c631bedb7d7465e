import { type AdjustTarget } from './edits';

/** What the table shows. */
export type Look =
  | 'result'
  | 'finished'
  | 'shot'
  | 'clipping'
  | 'blink'
  | 'wipe'
  | 'residual'
  | 'origin'
  | 'depth'
  | 'mask'
  | 'methods'
  | 'before'
  | 'edges'
  | 'clipped';

export const STATIONS = ['frames', 'fit', 'merge', 'layers', 'match', 'finish', 'proof'] as const;

export type Station = (typeof STATIONS)[number];

/** Steps whose work can be left out to compare. */
export type BeforeStep = 'fit' | 'layers' | 'match' | 'finish';

/** Where on the picture the table is: screen pixels a full-size pixel and the full-size pixel in the middle; undefined fits all. */
export interface Viewport {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

export interface Brush {
  readonly action: 'reveal' | 'hide';
  /** diameter, fraction of the long edge */
  readonly size: number;
  readonly softness: number;
  readonly flow: number;
}

/** Where the user is: kept with the project, so that a reload comes back there. Not part of the recipe. */
export interface Session {
  readonly station: Station;
  readonly look: Look;
  /** chosen frame, empty for none */
  readonly frame: string;
  /** chosen layer */
  readonly layer: string;
  readonly viewport?: Viewport;
  readonly brush: Brush;
  /** strength of the residual view */
  readonly gain: number;
  /** the step before which the picture is shown, for before and after */
  readonly before: BeforeStep;
  /** what Match changes */
  readonly target: AdjustTarget;
}

export const START: Session = {
  station: 'frames',
  look: 'shot',
  frame: '',
  layer: 'merge',
  brush: { action: 'reveal', size: 0.08, softness: 1, flow: 1 },
  gain: 8,
  before: 'fit',
  target: { kind: 'whole' },
};
