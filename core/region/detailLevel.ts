/** long edge at which local detail is measured, so that a look at a small version and the delivered file agree */
const MEASURED_AT = 1600;

/** The level at which a picture's detail is measured: the same one, whatever is looked at. */
export function detailLevel(longEdge: number): number {
  return Math.max(0, Math.ceil(Math.log2(longEdge / MEASURED_AT)));
}
