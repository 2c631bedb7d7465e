/** What a lens does to a picture, to be taken back; all zero for a perfect one. */
export interface LensCorrection {
  /** radial distortion: a point at r half diagonals is seen at r·(1 + d·r²); negative is barrel */
  readonly distortion: number;
  /** light lost at the corners, stops; it grows with r² */
  readonly vignette: number;
  /** lateral colour error: by which share red and blue are drawn larger than green */
  readonly red: number;
  readonly blue: number;
}

/** A perfect lens. */
export const NO_LENS: LensCorrection = { distortion: 0, vignette: 0, red: 0, blue: 0 };
