import { type PanoramaFit } from './fitPanorama';

/** Whether frames were turned upwards more than sideways: one column. */
export function isColumn({ rotations }: Pick<PanoramaFit, 'rotations'>): boolean {
  const present = rotations.flatMap((R) => (R ? [R] : []));
  const range = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
  return (
    present.length > 0 &&
    range(present.map((R) => Math.atan2(R[6], R[8]))) <
      range(present.map((R) => Math.asin(Math.max(-1, Math.min(1, R[7])))))
  );
}

/** Where each frame looks along the set, degrees: to the right for a row, downwards for a column; infinite for a stray. */
export function anglesOf(fit: Pick<PanoramaFit, 'rotations'>): number[] {
  const column = isColumn(fit);
  return fit.rotations.map((R) => {
    if (!R) return Infinity;
    const angle = column ? Math.asin(Math.max(-1, Math.min(1, R[7]))) : Math.atan2(R[6], R[8]);
    return (angle * 180) / Math.PI;
  });
}
