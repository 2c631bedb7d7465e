import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { corners } from './corners';
import { describe, packed } from './describe';
import { structureTensor } from './structureTensor';

/** Distinct points of a picture and what their surroundings look like; parallel lists. */
export interface Features {
  readonly count: number;
  /** full-size pixels */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** standard error of a place, full-size pixels: finer levels are surer */
  readonly spread: Float32Array;
  /** {@link DESCRIPTOR} whole numbers a point, together a vector of {@link DESCRIPTOR_LENGTH} */
  readonly descriptors: Int16Array;
}

const LARGEST_EDGE = 1700;
const LEVELS = 3;
const MARGIN = 14;
/** corner strength that noise does not reach, encoded units squared */
const LEAST_STRENGTH = 6e-6;

/**
 * Multi-scale corners, the harmonic mean of the structure tensor's eigenvalues (Brown, Szeliski & Winder 2005), spread evenly over the
 * picture, each described by histograms of gradient directions around it (4 × 4 cells of 8 directions: Lowe 2004), upright, since the
 * frames of a set are turned little against each other.
 * @param wanted about as many points
 */
export function featurePoints(image: EncodedImage, wanted = 1100): Features {
  let source = asCodes(image);
  let level = 0;
  for (; Math.max(source.width, source.height) > LARGEST_EDGE; level++) source = halveImage(source);
  const found: { x: number; y: number; spread: number; descriptor: Float32Array }[] = [];
  for (let step = 0; step < LEVELS && Math.min(source.width, source.height) > 4 * MARGIN; step++, level++) {
    if (step > 0) source = halveImage(source);
    const { width, height, data, white } = source;
    const grey = new Float32Array(width * height);
    // the square root opens the darks, so that a shaded wall gives corners too
    for (let i = 0; i < grey.length; i++)
      grey[i] = Math.sqrt((data[3 * i] + 2 * data[3 * i + 1] + data[3 * i + 2]) / (4 * white));
    const structure = structureTensor(grey, width, height);
    const share = { wanted: wanted * [0.6, 0.27, 0.13][step], least: LEAST_STRENGTH, margin: MARGIN };
    const scale = 2 ** level;
    for (const corner of corners(structure.strength, width, height, share))
      found.push({
        x: (corner.x + 0.5) * scale - 0.5,
        y: (corner.y + 0.5) * scale - 0.5,
        spread: 0.35 * scale,
        descriptor: describe(structure, width, corner.x, corner.y),
      });
  }
  return {
    count: found.length,
    x: Float32Array.from(found, (f) => f.x),
    y: Float32Array.from(found, (f) => f.y),
    spread: Float32Array.from(found, (f) => f.spread),
    descriptors: packed(found.map((f) => f.descriptor)),
  };
}
