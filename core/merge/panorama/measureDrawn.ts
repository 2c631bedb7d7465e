import { type Finding } from '../../proof/finding';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Rectangle } from '../../raster/raster';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { drawnFindings } from './panoramaFindings';
import { keptShare, panoramaCrop, type PanoramaPlan, panoramaShares } from './planPanorama';
import { type SeamPlace, seamStep } from './seamStep';

/** What is known of a panorama once it is drawn. */
export interface DrawnMeasures {
  /** [frame] where each frame makes the picture, 0 or 255 for each pixel of the half-size picture */
  readonly shares: readonly Uint8Array[];
  readonly findings: readonly Finding[];
  /** the largest level rectangle without blank borders, pixels of the canvas */
  readonly crop: Rectangle;
}

/** Measures a drawn panorama: seams, stretch, what its crop keeps.
 * @param seams places of the seams and what each frame shows there
 * @param names how the user calls the frames */
export function measureDrawn(
  image: EncodedImage,
  plan: PanoramaPlan,
  seams: { readonly places: readonly SeamPlace[]; readonly shown: readonly Float32Array[] },
  fit: PanoramaFit,
  names: readonly string[],
): DrawnMeasures {
  const step = seamStep(image, seams.places, seams.shown);
  const crop = panoramaCrop(plan, 'free');
  return {
    shares: panoramaShares(plan, names.length),
    findings: drawnFindings(fit, plan, step, keptShare(plan, crop), names),
    crop,
  };
}
