/** A rectangle of pixels at a level of a picture: where to evaluate a mask. */
export interface MaskGrid {
  /** long edge of the picture at full size, pixels */
  readonly longEdge: number;
  /** halvings from full size */
  readonly level: number;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
