import { type EncodedImage, emptyImage } from '../raster/encodedImage';
import { collapseBand } from './collapseBand';
import { fuseBand } from './fuseBand';
import { fuseCoarse } from './fuseCoarse';
import { fusionBuffers, type FusionFrame, type MoverTakes, planFusion } from './fusionPlan';
import { type Movers } from './movers/mover';
import { type BlendWeights } from './blendWeights';
import { PAPER_MEASURES } from './mertensWeight';

/** A merged picture on the reference's grid and the share of every frame in it. */
export interface Merged {
  /** 16 bit, sRGB-encoded */
  readonly image: EncodedImage;
  /** [frame] 0…255 for each pixel of the half-size picture (size rounded up) */
  readonly shares: readonly Uint8Array[];
  /** what moved, and which frame made it; absent when movers were not looked for */
  readonly movers?: Movers;
  /** the radiance map it was toned from, sRGB-encoded floats at the reference's exposure */
  readonly radiance?: EncodedImage;
  /** how far the frames' response is off sRGB, stops; where it was measured */
  readonly responseOff?: number;
}

/**
 * Exposure fusion of fitted frames on one thread (Mertens, Kautz & Van Reeth 2007). The engine runs the same three steps in
 * parallel; both give the same pixels.
 * @param frames the first one defines nothing; all are resampled onto a grid of `width × height`
 */
export function exposureFusion(
  frames: readonly FusionFrame[],
  width: number,
  height: number,
  measures: BlendWeights = PAPER_MEASURES,
  takes?: MoverTakes,
): Merged {
  const plan = planFusion(width, height);
  const buffers = fusionBuffers(plan, frames.length);
  const image = emptyImage(width, height, 65535);
  for (const band of plan.bands) fuseBand(frames, measures, plan, buffers, band, takes);
  fuseCoarse(plan, buffers);
  for (const band of plan.bands) collapseBand(plan, buffers, band, image);
  return { image, shares: buffers.shares };
}
