import { type EncodedImage } from '../../raster/encodedImage';
import { type Features } from './featurePoints';
import { matchFeatures } from './matchFeatures';
import { type Grey, patchLuminance, refinePairs } from './refinePairs';
import { type RobustFit, robustHomography } from './robustHomography';

/** That two frames overlap, and how. */
export interface FrameLink {
  readonly fit: RobustFit;
  /** matches before the outliers were taken out */
  readonly matches: number;
}

/** error that parallax and distortion may add, as a share of the long edge: a pixel and a half of 1500 */
const SLACK = 0.001;

/** A frame as linking needs it. */
export function linkable(image: EncodedImage): Grey {
  return { width: image.width, height: image.height, grey: patchLuminance(image) };
}

/** Whether so many agreeing pairs of so many matches show an overlap (Brown & Lowe 2007, eq. 9). */
export function overlapping(agreeing: number, matches: number): boolean {
  return agreeing > 8 + 0.3 * matches;
}

/**
 * Finds out whether two frames overlap: matched points, a robust homography, and then every agreeing point laid exactly over its
 * counterpart.
 * @returns undefined when they share nothing
 */
export function linkFrames(
  a: Grey,
  aFeatures: Features,
  b: Grey,
  bFeatures: Features,
): FrameLink | undefined {
  const matches = matchFeatures(aFeatures, bFeatures);
  const slack = SLACK * Math.max(a.width, a.height);
  const rough = robustHomography(matches, slack);
  if (!rough || !overlapping(rough.inliers.length, matches.length)) return undefined;
  const exact = robustHomography(refinePairs(a, b, rough.matrix, rough.inliers), slack);
  return { fit: exact ?? rough, matches: matches.length };
}
