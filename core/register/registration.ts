import { IDENTITY, type Matrix3 } from '../raster/matrix3';
import { type MotionModel } from './motionModel';
import { type TileResidual } from './tileResidual';

/** The fit of one frame against the reference, with what it knows about its own error. */
export interface Registration {
  /** reference pixel → frame pixel, full size */
  readonly matrix: Matrix3;
  readonly model: MotionModel;
  readonly fitted: boolean;
  /** why the frame was left out, a sentence; empty when it was fitted */
  readonly why: string;
  readonly turnDegrees: number;
  /** linear magnification of the frame against the reference */
  readonly scale: number;
  /** bound on the rms error of the fit itself that nine of ten fits keep, pixels */
  readonly bound: number;
  /** remaining displacement, pixels: typical and worst place */
  readonly residual: { readonly typical: number; readonly worst: number };
  readonly tiles: readonly TileResidual[];
  /** what was compared, where it was not the tones: the light differs too much for them */
  readonly by?: 'edges';
}

/** The registration of the reference against itself. */
export function referenceRegistration(): Registration {
  return {
    matrix: IDENTITY,
    model: 'shift',
    fitted: true,
    why: '',
    turnDegrees: 0,
    scale: 1,
    bound: 0,
    residual: { typical: 0, worst: 0 },
    tiles: [],
  };
}
