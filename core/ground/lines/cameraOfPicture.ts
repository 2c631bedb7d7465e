import { type EncodedImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { lumaOf } from '../../raster/lumaOf';
import { type Segment, straightSegments } from '../../raster/straightSegments';
import { type CameraFromLines, cameraFromLines, type CameraFromLinesInput } from './cameraFromLines';
import { type LineFamily } from './lineFamilies';
import { refineSegment } from './refineSegment';

/** long edge at which lines are looked for, pixels, at most */
const LOOKED_AT = 1600;
/** a line is at least so long, over the long edge */
const LEAST_LENGTH = 0.022;

/** A straight line of a picture, pixels of that, and what it is in the world. */
export type FoundLine = Segment & { readonly family: LineFamily };

/** How a camera is held by its picture's lines, pixels of the picture. */
export interface CameraOfPicture extends Omit<CameraFromLines, 'families'> {
  readonly lines: readonly FoundLine[];
}

/**
 * How a picture's camera is held, told by the straight lines in it, see {@link cameraFromLines}.
 * @param known what is known of it, pixels of the picture
 * @returns undefined where too few lines agree
 */
export function cameraOfPicture(
  picture: EncodedImage,
  known: Omit<CameraFromLinesInput, 'width' | 'height'>,
): CameraOfPicture | undefined {
  let image = picture;
  while (Math.max(image.width, image.height) > LOOKED_AT) image = halveImage(image);
  const { width, height } = image;
  const scale = picture.width / width;
  const there = (v: number): number => (v + 0.5) / scale - 0.5;
  const back = (v: number): number => (v + 0.5) * scale - 0.5;
  const covered = new Uint8Array(width * height).fill(1);
  const luma = lumaOf(image);
  const segments = straightSegments(luma, covered, width, height, LEAST_LENGTH * Math.max(width, height)).map(
    (segment) => refineSegment(luma, width, height, segment),
  );
  const moved = <S extends Segment>(s: S, by: (v: number) => number): S => ({
    ...s,
    x0: by(s.x0),
    y0: by(s.y0),
    x1: by(s.x1),
    y1: by(s.y1),
  });
  const solved = cameraFromLines(segments, {
    width,
    height,
    principal: [there(known.principal[0]), there(known.principal[1])],
    cropped: known.cropped ?? false,
    ...(known.focal === undefined ? {} : { focal: known.focal / scale }),
    ...(known.drawn ? { drawn: known.drawn.map((d) => moved(d, there)) } : {}),
  });
  if (!solved) return undefined;
  const { horizon, roll, focal, families } = solved;
  return {
    horizon: { value: back(horizon.value), spread: scale * horizon.spread },
    roll,
    focal: { value: scale * focal.value, spread: scale * focal.spread },
    lines: segments.flatMap((s, i) => {
      const family = families[i];
      return family ? [{ ...moved(s, back), family }] : [];
    }),
  };
}
