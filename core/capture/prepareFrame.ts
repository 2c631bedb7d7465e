import { applyMatch } from '../match/applyMatch';
import { type MatchMap } from '../match/matchMap';
import { type EncodedImage } from '../raster/encodedImage';
import { type Allocate } from '../raster/raster';
import { clearDust } from './clearDust';
import { type DustShade } from './dustShade';
import { correctLens } from './lensCorrection';
import { type LensCorrection } from './lensFaults';
import { prepareImage } from './prepareImage';

/** What is done to a frame before it is fitted and merged, in this order. */
export interface FramePreparation {
  /** dust whose light is given back */
  readonly shades?: readonly DustShade[];
  /** of linear R, G, B */
  readonly gains?: readonly [number, number, number];
  /** what makes it like its neighbours */
  readonly like?: MatchMap;
  readonly lens?: LensCorrection;
}

/** A frame as its set is prepared; the frame itself where nothing is done. */
export function prepareFrame(
  image: EncodedImage,
  { shades = [], gains, like, lens }: FramePreparation,
  allocate?: Allocate,
): EncodedImage {
  const clear = shades.length > 0 ? clearDust(image, shades, allocate) : image;
  const even = gains ? prepareImage(clear, gains, allocate) : clear;
  const alike = like ? applyMatch(even, like, even.white, allocate) : even;
  return lens ? correctLens(alike, lens, allocate) : alike;
}
