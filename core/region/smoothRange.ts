/** A range of something that is measured, with the width over which each end fades out. */
export interface SoftRange {
  readonly from: number;
  readonly to: number;
  readonly soft: number;
}

/** 3t² − 2t³ between 0 and 1. */
export function smoothStep(t: number): number {
  const s = t <= 0 ? 0 : t >= 1 ? 1 : t;
  return s * s * (3 - 2 * s);
}

/** How well a value lies in a range: 1 inside, falling as a smooth step over the soft ends, which lie outside. */
export function smoothRange(value: number, { from, to, soft }: SoftRange): number {
  return smoothStep(Math.min(value - from, to - value) / Math.max(1e-3, soft) + 1);
}
