/** long edge, pixels, under which a picture is not halved further */
const SMALLEST = 200;

/** Halvings of a picture that can be asked for. @param longEdge full-size pixels */
export const coarsestLevel = (longEdge: number): number =>
  Math.max(0, Math.floor(Math.log2(longEdge / SMALLEST)));
