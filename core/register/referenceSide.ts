import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { type TopLevels } from './coarseStart';
import { type GradientPoints, gradientPoints, type PointLimits } from './gradientPoints';
import { logLuminance } from './logLuminance';
import { type Channel, keepRegion, type Luminance, luminancePyramid } from './luminance';

/** What a fit needs of its reference. */
export interface ReferenceSide {
  /** [level] pixels */
  readonly sizes: readonly { readonly width: number; readonly height: number }[];
  /** [level] what carries the fit; undefined above full detail that is not asked for */
  readonly points: readonly (GradientPoints | undefined)[];
  /** [level] its light, where a fit asks for it */
  readonly light: readonly (Luminance | undefined)[];
  /** the coarsest levels, by which a start is found */
  readonly start: TopLevels;
  /** the level at which a finished fit is checked against its neighbours */
  readonly check: Luminance;
}

/** Everything that a reference's side depends on besides its pixels. */
export interface ReferenceWish {
  readonly channel: Channel;
  /** added to light before its logarithm is taken */
  readonly floor: number;
  /** finest level that is worked at */
  readonly finest: number;
  /** only this part is held, full-size pixels */
  readonly region?: Rectangle;
  /** points of this level and those above it only: what lies below is picked from {@link ReferenceSide.light} for each frame anew */
  readonly pointsFrom?: number;
}

/** Makes the side of a reference, or gives one that was made before. */
export type SideOf = (image: EncodedImage, wish: ReferenceWish) => ReferenceSide;

/** points at the finest level, and at those above it, which only have to lead there */
const POINTS = 60000;
const POINTS_ABOVE = 24000;
const POINTS_AT_TOP = 100;
const LEAST_SCORE = 6;
/** the finished fit is checked against its neighbours at about this width, pixels */
const CHECK_WIDTH = 750;

/** The same for every frame that is fitted to the reference: points of each level, and the levels that are compared as a whole. */
export function referenceSide(
  image: EncodedImage,
  { channel, floor, finest, region, pointsFrom = finest }: ReferenceWish,
): ReferenceSide {
  const levels = luminancePyramid(image, 0, channel);
  if (region) levels.forEach((level) => keepRegion(level, region));
  const top = levels.length - 1;
  return {
    sizes: levels.map(({ width, height }) => ({ width, height })),
    points: levels.map((level, k) =>
      k < pointsFrom
        ? undefined
        : gradientPoints(logLuminance(level, floor), {
            ...(k === top ? { tilesX: 6, tilesY: 4, total: POINTS_AT_TOP } : pointsAt(k === finest)),
            leastScore: LEAST_SCORE,
            ...atLevel(region, k),
          }),
    ),
    light: levels.map((level, k) => (k >= finest && k < pointsFrom ? level : undefined)),
    start: topLevels(levels),
    check: levels[Math.min(top, Math.max(1, finest, Math.round(Math.log2(image.width / CHECK_WIDTH))))],
  };
}

/** How many points a level below the top is fitted by. @param isFinest whether it is the last one */
export const pointsAt = (isFinest: boolean) => ({
  ...{ tilesX: 16, tilesY: 12 },
  total: isFinest ? POINTS : POINTS_ABOVE,
});

/** The two coarsest of at least three levels. */
export const topLevels = (levels: readonly Luminance[]): TopLevels => ({
  coarsest: levels[levels.length - 1],
  finer: levels[levels.length - 2],
});

/** A full-size region as limits of a level. */
export function atLevel(region: Rectangle | undefined, level: number): Pick<PointLimits, 'region'> {
  if (!region) return {};
  const scale = 2 ** -level;
  return {
    region: {
      x0: Math.floor(region.x * scale),
      y0: Math.floor(region.y * scale),
      x1: Math.ceil((region.x + region.width) * scale),
      y1: Math.ceil((region.y + region.height) * scale),
    },
  };
}
