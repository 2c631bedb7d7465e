/** What the table shows. */
export type Look = 'result' | 'shot' | 'clipping' | 'blink' | 'wipe' | 'residual' | 'origin' | 'mask';

export const STATIONS = ['frames', 'fit', 'merge', 'layers', 'finish'] as const;

export type Station = (typeof STATIONS)[number];

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
}

export const START: Session = {
  station: 'frames',
  look: 'shot',
  frame: '',
  layer: 'merge',
  brush: { action: 'reveal', size: 0.08, softness: 1, flow: 1 },
  gain: 8,
};
