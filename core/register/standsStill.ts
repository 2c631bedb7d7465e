import { type EncodedImage } from '../raster/encodedImage';
import { IDENTITY, transform } from '../raster/matrix3';
import { localStructure } from './localStructure';
import { logFloor, logLuminance } from './logLuminance';
import { type Luminance, luminancePyramid, usableChannel } from './luminance';
import { type Registration } from './registration';
import { PROBE_SHIFTS, probeVotes, tileCorrelation } from './tileCorrelation';
import { length2 } from '../raster/length';

/** a camera that moved less than this stood on a tripod, pixels */
const STILL = 0.1;
/** a picture is compared at about this width, pixels */
const WIDTH = 750;

/** Whether a fit moves no place of a picture by a tenth of a pixel. */
function movesNothing({ matrix }: Registration, width: number, height: number): boolean {
  const [w, h] = [width - 1, height - 1];
  return [
    [0, 0],
    [w, 0],
    [0, h],
    [w, h],
    [w / 2, h / 2],
  ].every(([x, y]) => {
    const [u, v] = transform(matrix, x, y);
    return length2(u - x, v - y) < STILL;
  });
}

/** Whether all frames that could be fitted to a reference lie where it lies: then the camera stood on a tripod. @param fits of the others */
export function stoodStill(fits: readonly Registration[], width: number, height: number): boolean {
  const fitted = fits.filter((f) => f.fitted);
  return fitted.length > 0 && fitted.every((f) => movesNothing(f, width, height));
}

/** The fit of a frame that was not moved: nothing of it is resampled. @param known what was measured of it */
export function stillRegistration(known: Registration): Registration {
  return { ...known, fitted: true, why: '', matrix: IDENTITY, model: 'shift', turnDegrees: 0, scale: 1 };
}

/**
 * Whether what two frames share of usable tones lies at the same places, or too little of it is left to say: a frame that is nearly burnt out or
 * black may then be taken to stand still as all others of its set do.
 * @param stops exposure of the frame against the other, EV
 */
export function mayLieStill(reference: EncodedImage, frame: EncodedImage, stops: number): boolean {
  if (reference.width !== frame.width || reference.height !== frame.height) return false;
  const channel = usableChannel(reference, frame, stops);
  const floor = logFloor(stops);
  const small = (image: EncodedImage, ev: number): Luminance => {
    const levels = luminancePyramid(image, ev, channel);
    return levels[Math.min(levels.length - 1, Math.max(0, Math.round(Math.log2(image.width / WIDTH))))];
  };
  const [a, b] = [small(reference, 0), small(frame, stops)].map((level) =>
    localStructure(logLuminance(level, floor), 8, true),
  );
  const { votes, informative, atFit, outer } = probeVotes(
    tileCorrelation(a, b, IDENTITY, 10, 7, PROBE_SHIFTS, Math.max(1, Math.min(3, Math.round(a.width / 250)))),
  );
  if (informative < 4) return true;
  return votes >= 0.5 * informative && atFit > outer;
}
