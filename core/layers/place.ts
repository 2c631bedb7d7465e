import { invert, type Matrix3, multiply, normalise, transform } from '../raster/matrix3';
import { quadMatrix } from '../raster/quadMatrix';

/** A place in the picture, or a way between two; fractions of its long edge. */
export type Point = readonly [x: number, y: number];

/** Where something lies in the picture; lengths are fractions of the picture's long edge, so that they hold at any size. */
export interface Place {
  /** its middle, from the picture's left and top */
  readonly x: number;
  readonly y: number;
  /** its long edge */
  readonly size: number;
  /** degrees, clockwise on screen */
  readonly turn: number;
  readonly mirrored: boolean;
  /** how far its own corners (top left, top right, bottom right, bottom left) are pulled from there */
  readonly corners?: readonly [Point, Point, Point, Point];
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Picture pixel centre → pixel centre of what is laid there. */
export function placeMatrix(place: Place, own: Size, picture: Size): Matrix3 {
  const plain = plainMatrix(place, own, picture);
  const { corners } = place;
  if (!corners || corners.every(([x, y]) => x === 0 && y === 0)) return plain;
  const long = Math.max(picture.width, picture.height);
  const pulled = cornersOf(plain, own).map(([x, y], i): Point => [
    x + corners[i][0] * long,
    y + corners[i][1] * long,
  ]);
  const square = ownCorners(own);
  // four places of the picture, and those of the plate that come to lie there
  return quadMatrix(pulled, square) ?? plain;
}

type Quad = readonly [Point, Point, Point, Point];

/** Pixel edges of the four corners, as pixel centres count. */
const ownCorners = ({ width, height }: Size): Quad => [
  [-0.5, -0.5],
  [width - 0.5, -0.5],
  [width - 0.5, height - 0.5],
  [-0.5, height - 0.5],
];

function cornersOf(matrix: Matrix3, own: Size): Point[] {
  const back = normalise(invert(matrix));
  return ownCorners(own).map(([x, y]) => transform(back, x, y));
}

/** Where the four corners of something come to lie, full-size pixels of the picture: top left, top right, bottom right, bottom left. */
export function placedCorners(place: Place, own: Size, picture: Size): Point[] {
  return cornersOf(placeMatrix(place, own, picture), own);
}

function plainMatrix({ x, y, size, turn, mirrored }: Place, own: Size, picture: Size): Matrix3 {
  const long = Math.max(picture.width, picture.height);
  // own pixels for a pixel of the picture
  const scale = Math.max(own.width, own.height) / (size * long);
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)];
  const flip = mirrored ? -1 : 1;
  const about: Matrix3 = [flip * c, flip * s, 0, -s, c, 0, 0, 0, 1];
  const toMiddle: Matrix3 = [1, 0, -(x * long - 0.5), 0, 1, -(y * long - 0.5), 0, 0, 1];
  const fromMiddle: Matrix3 = [1, 0, (own.width - 1) / 2, 0, 1, (own.height - 1) / 2, 0, 0, 1];
  return multiply(fromMiddle, multiply(about, toMiddle));
}

/** a plate arrives at its own size, but no longer than this share of the picture's long edge */
const LONGEST = 0.6;

/** Where something lies when it arrives: its own size, in the middle, each further one a little aside. */
export function firstPlace(own: Size, picture: Size, before: number): Place {
  const long = Math.max(picture.width, picture.height);
  const size = Math.min(LONGEST, Math.max(own.width, own.height) / long);
  const aside = (0.12 * ((before + 1) >> 1) * (before % 2 === 0 ? -1 : 1)) % 0.4;
  return {
    x: (0.5 * picture.width) / long + aside,
    y: (0.5 * picture.height) / long,
    size,
    turn: 0,
    mirrored: false,
  };
}
