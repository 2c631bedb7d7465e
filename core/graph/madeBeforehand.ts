import { type Operator } from './operator';

const beforehand = (kind: string, version: number, gives: Operator['gives']): Operator => ({
  kind,
  version,
  gives,
  beforehand: true,
});

/**
 * What is made in the pool before a picture can be evaluated, and kept by hash: it looks at whole pictures, or at many at once. The store
 * and the command line make what {@link missing} names.
 */
export const MADE_BEFOREHAND: readonly Operator[] = [
  /** a decoded file, by the hash of its bytes */
  beforehand('frame', 1, 'picture'),
  /** a frame as its set is prepared: white balance evened out, what the lens did taken back */
  beforehand('prepare', 1, 'picture'),
  /** what the frames of a set say of each other */
  beforehand('measureSet', 1, 'fact'),
  /** where a frame lies on its reference */
  beforehand('fitFrame', 1, 'fact'),
  /** where the frames of a bracket lie by way of each other */
  beforehand('joinFits', 1, 'fact'),
  /** where all frames of a set lie */
  beforehand('fitSet', 1, 'fact'),
  /** how far parts of a frame lie from its reference though the rest fits */
  beforehand('apartOf', 1, 'fact'),
  /** what bends a frame so that near and far lie on its reference at once */
  beforehand('measureBend', 1, 'fact'),
  /** a frame as it is bent */
  beforehand('bendFrame', 1, 'picture'),
  /** the bracket of one direction of a panorama */
  beforehand('mergeView', 1, 'picture'),
  /** what bends a panorama's paper to a rectangle */
  beforehand('bendBorder', 1, 'fact'),
  /** the frames of a set made one */
  beforehand('mergeSet', 1, 'picture'),
  /** what is shown in place of a merge that is not there yet */
  beforehand('standIn', 1, 'picture'),
  /** noise of a picture, encoded 0…1 */
  beforehand('noiseOf', 1, 'fact'),
  /** large areas of light of a radiance map */
  beforehand('toneBaseOf', 1, 'fact'),
  /** a picture with the opacity of a thing in it, and where that is half covered its colours without the old background; the quick form has an edge of cells */
  beforehand('cutOut', 1, 'picture'),
  beforehand('roughCut', 1, 'picture'),
  /** the silhouette of a picture with opacity, blown up */
  beforehand('inflate', 1, 'field'),
  /** what the gap of a repair is copied from */
  beforehand('fillFrom', 1, 'fact'),
  /** how well the frames of a set stand in for what a repair takes out */
  beforehand('agreeFrames', 1, 'fact'),
  /** how far away the places of a focus set are */
  beforehand('distanceOf', 1, 'field'),
];
