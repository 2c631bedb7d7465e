import { type CaptureFacts, type FrameMeasures } from './captureFacts';
import { type ClippedShares } from './clippedShares';

/** What the findings of the frames are made from: one entry a frame of the set, any order. */
export interface MeasuredFrame {
  /** how the user calls it */
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly stops: number;
  readonly stopsSource: 'exif' | 'measured';
  readonly clipped: ClippedShares;
  readonly facts: CaptureFacts;
  readonly measures: FrameMeasures;
}
