import { type Stroke } from '@/core/mask/stroke';
import { type MaskForm } from '@/core/view/showMask';
import { FIRST_LAYER } from '@/core/recipe/emptyProject';
import { type EditOwner } from './edits/list';

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
  | 'fitted'
  | 'mask'
  | 'methods'
  | 'before'
  | 'beside'
  | 'difference'
  | 'full'
  | 'edges'
  | 'clipped';

export const STATIONS = ['frames', 'fit', 'merge', 'layers', 'match', 'ground', 'finish', 'proof'] as const;

export type Station = (typeof STATIONS)[number];

/** What can be left out to compare: the work of a step, the edit that is open, or all that was done since a line of the record. */
export type BeforeStep = 'fit' | 'layers' | 'match' | 'ground' | 'finish' | 'edit' | 'then';

/** Where on the picture the table is: screen pixels a full-size pixel and the full-size pixel in the middle; undefined fits all. */
export interface Viewport {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

export type BrushAction = Stroke['action'];

export interface Brush {
  /** diameter, fraction of the long edge */
  readonly size: number;
  readonly softness: number;
  readonly flow: number;
  /** how far the line stays behind the hand and so smooths it, in diameters of the brush; 0 or none follows it */
  readonly steady?: number;
  /** whether it covers only what it started on */
  readonly inside?: boolean;
}

/** Where the user is: kept with the project, so that a reload comes back there. Not part of the recipe. */
export interface Session {
  readonly station: Station;
  readonly look: Look;
  /** chosen frame, empty for none */
  readonly frame: string;
  /** chosen layer */
  readonly layer: string;
  /** the set that is worked on; the picture's base when empty */
  readonly set: string;
  /** the only layer that is shown, to look at it; empty for all */
  readonly solo: string;
  /** what of the chosen layer the panel shows */
  readonly layerPart: 'where' | 'place' | 'edits' | 'layer';
  /** the edit whose settings and region are open, empty for none */
  readonly edit: string;
  readonly viewport?: Viewport;
  readonly brush: Brush;
  /** whether the table shows greys only: how light each place is */
  readonly greys?: boolean;
  /** how masks are seen; hatched where it is not said */
  readonly maskForm?: MaskForm;
  /** which side the brush had last, by the region's owner */
  readonly sides?: Readonly<Record<string, BrushAction>>;
  /** strength of the residual view */
  readonly gain: number;
  /** the step before which the picture is shown, for before and after */
  readonly before: BeforeStep;
  /** of the steps that can be taken back, the last one that was done by then */
  readonly then?: number;
  /** what Match changes */
  readonly target: EditOwner;
}

export const START: Session = {
  station: 'frames',
  look: 'shot',
  frame: '',
  layer: FIRST_LAYER,
  set: '',
  solo: '',
  layerPart: 'where',
  edit: '',
  brush: { size: 0.08, softness: 1, flow: 1 },
  gain: 8,
  before: 'fit',
  target: { kind: 'whole' },
};
