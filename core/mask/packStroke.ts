import { sharedBytes } from '../raster/raster';
import { type Stroke } from './stroke';

/** A stroke as the evaluator takes it: its points in shared memory, so that a message about it stays small. */
export interface PackedStroke extends Omit<Stroke, 'points'> {
  /** x, y, pressure of each sample, one after the other */
  readonly points: Float64Array;
}

const packed = new WeakMap<Stroke, PackedStroke>();

/** The stroke with its points packed; made once, a stroke is never changed once it is drawn. */
export function packStroke(stroke: Stroke): PackedStroke {
  const known = packed.get(stroke);
  if (known) return known;
  const { action, size, softness, flow, inside } = stroke;
  const points = new Float64Array(sharedBytes(24 * stroke.points.length));
  stroke.points.forEach((p, i) => points.set(p, 3 * i));
  const made = { action, size, softness, flow, points, ...(inside ? { inside } : {}) };
  packed.set(stroke, made);
  return made;
}
