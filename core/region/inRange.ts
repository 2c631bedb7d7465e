import { type Kernels, kernels } from '../kernels/kernels';
import { smoothRange, type SoftRange } from './smoothRange';

/** How well each value of a plane lies in a range, 0…1. @param compiled null for the plain form, which the compiled one is held against */
export function inRange(
  plane: Float32Array,
  range: SoftRange,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  if (!compiled) return plane.map((v) => smoothRange(v, range));
  const { from, to, soft } = range;
  return compiled.borrow(() => {
    const at = compiled.upload(plane);
    compiled.rangePlane(at, plane.length, from, to, 1 / Math.max(1e-3, soft));
    return compiled.floats(at, plane.length).slice();
  });
}
