/** width between a tenth and nine tenths of a Gaussian, in its own σ */
const GAUSSIAN_WIDTH = 2.563;

/** what is left of a wide edge without its feather is mostly error of measure: so much more is taken off */
const CERTAIN = 1.12;

/** σ² of a feather of a radius: three boxes of it, pixels². */
const varianceOf = (radius: number): number => radius * (radius + 1);

/** Radius of a feather of a variance. */
const radiusOf = (variance: number): number => (Math.sqrt(1 + 4 * variance) - 1) / 2;

/**
 * The feather by which an edge gets as wide as another; none makes it harder than it is without.
 * @param width between a tenth and nine tenths of the edge as it is, pixels
 * @param own as wide as it should be, pixels
 * @param feather that it has, fraction of the long edge
 * @returns fraction of the long edge
 */
export function featherFor(width: number, own: number, feather: number, longEdge: number): number {
  const bare = Math.max(0, (width / GAUSSIAN_WIDTH) ** 2 - CERTAIN * varianceOf(feather * longEdge));
  return radiusOf(Math.max(0, (own / GAUSSIAN_WIDTH) ** 2 - bare)) / longEdge;
}
