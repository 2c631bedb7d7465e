import { type Matrix3, multiply } from '../raster/matrix3';

/** Where a cut-out lies in the picture; lengths as shares of the picture's long edge, so that they hold at any size. */
export interface PlatePlace {
  /** its middle, from the picture's left and top */
  readonly x: number;
  readonly y: number;
  /** its long edge */
  readonly size: number;
  /** degrees, clockwise on screen */
  readonly turn: number;
  readonly mirrored: boolean;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Picture pixel centre → plate pixel centre. */
export function plateMatrix({ x, y, size, turn, mirrored }: PlatePlace, plate: Size, picture: Size): Matrix3 {
  const long = Math.max(picture.width, picture.height);
  // plate pixels for a pixel of the picture
  const scale = Math.max(plate.width, plate.height) / (size * long);
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)];
  const flip = mirrored ? -1 : 1;
  const about: Matrix3 = [flip * c, flip * s, 0, -s, c, 0, 0, 0, 1];
  const toMiddle: Matrix3 = [1, 0, -(x * long - 0.5), 0, 1, -(y * long - 0.5), 0, 0, 1];
  const fromMiddle: Matrix3 = [1, 0, (plate.width - 1) / 2, 0, 1, (plate.height - 1) / 2, 0, 0, 1];
  return multiply(fromMiddle, multiply(about, toMiddle));
}

/** a plate arrives at its own size, but no longer than this share of the picture's long edge */
const LONGEST = 0.6;

/** Where a plate lies when it arrives: its own size, in the middle, each further one a little aside. */
export function firstPlace(plate: Size, picture: Size, before: number): PlatePlace {
  const long = Math.max(picture.width, picture.height);
  const size = Math.min(LONGEST, Math.max(plate.width, plate.height) / long);
  const aside = (0.12 * ((before + 1) >> 1) * (before % 2 === 0 ? -1 : 1)) % 0.4;
  return {
    x: (0.5 * picture.width) / long + aside,
    y: (0.5 * picture.height) / long,
    size,
    turn: 0,
    mirrored: false,
  };
}
