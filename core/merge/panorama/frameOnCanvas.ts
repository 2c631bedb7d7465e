import { kernels } from '../../kernels/kernels';
import { gridRows, type PlaceGrid, warpByGrid } from '../../kernels/warpKernel';
import { CONTINUED, drawByGrid, eachPlace } from '../../raster/drawByGrid';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3 } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { pixelOf, type SharedLens, turned } from '../../register/rotation/cameraModel';
import { type PanoramaCanvas, planeAt } from './canvas';
import { PROJECTIONS } from './projection';
import { length2 } from '../../raster/length';

/** A frame drawn on a part of the canvas. */
export interface DrawnFrame {
  /** encoded R, G, B; 0 where the frame does not reach */
  readonly planes: readonly [Float32Array, Float32Array, Float32Array];
  /** distance inside the frame's border, its pixels; negative outside */
  readonly inside: Float32Array;
  /** distance from the picture's middle, 1 at its corners; empty when it was not wanted */
  readonly radius: Float32Array;
}

/** the map is worked out every so many pixels and runs straight between */
const GRID = 8;

/** The lens as it draws a frame that was halved `level` times. */
export function reducedLens(lens: SharedLens, level: number): SharedLens {
  const k = 2 ** -level;
  return { ...lens, focalPx: lens.focalPx * k, width: lens.width * k, height: lens.height * k };
}

/** How a frame is drawn. */
export interface DrawWish {
  /** Lanczos-3 or, for what is only looked at or decided on, bilinear */
  readonly kernel: 'lanczos' | 'bilinear';
  /** whether {@link DrawnFrame.radius} is wanted */
  readonly radius: boolean;
}

/** Draws a frame on an area of the canvas. @returns undefined when the frame does not reach the area */
export function frameOnCanvas(
  image: EncodedImage,
  lens: SharedLens,
  rotation: Matrix3,
  canvas: PanoramaCanvas,
  area: Rectangle,
  { kernel, radius: wanted }: DrawWish,
): DrawnFrame | undefined {
  const grid = placesOf(image, lens, rotation, canvas, area);
  if (!grid) return undefined;
  const k = kernel === 'lanczos' ? kernels() : undefined;
  const drawn = k
    ? warpByGrid(k, image, grid, area.width, area.height, -CONTINUED)
    : drawByGrid(image, grid, area.width, area.height, kernel);
  if (!drawn.inside.some((v) => v >= 0)) return undefined;
  return { ...drawn, radius: wanted ? radiusOf(grid, image, area) : NOTHING };
}

const NOTHING = new Float32Array(0);

/** Distance of each pixel of an area from the frame's middle, 1 at its corners. */
export function radiusOf(grid: PlaceGrid, { width, height }: EncodedImage, area: Rectangle): Float32Array {
  const radius = new Float32Array(area.width * area.height);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const half = 0.5 * length2(width, height);
  eachPlace(grid, area.width, area.height, (o, u, v) => (radius[o] = length2(u - cx, v - cy) / half));
  return radius;
}

/** The rows of a frame that an area of the canvas is drawn from, from the first to before the end; undefined when it does not reach there. */
export function turnedRows(
  image: EncodedImage,
  lens: SharedLens,
  rotation: Matrix3 | null,
  canvas: PanoramaCanvas,
  area: Rectangle,
): readonly [first: number, end: number] | undefined {
  const grid = rotation ? placesOf(image, lens, rotation, canvas, area) : undefined;
  return grid && gridRows(grid, image.height);
}

/** Where each grid point of an area is seen in the frame; undefined when the frame is out of reach. */
export function placesOf(
  image: EncodedImage,
  lens: SharedLens,
  rotation: Matrix3,
  canvas: PanoramaCanvas,
  area: Rectangle,
): PlaceGrid | undefined {
  const { toRay } = PROJECTIONS[canvas.projection];
  const width = Math.ceil(area.width / GRID) + 1;
  const height = Math.ceil(area.height / GRID) + 1;
  const places = new Float64Array(2 * width * height);
  // a halved picture of odd size loses its last line: its own size and the lens's differ by up to half a pixel
  const [sx, sy] = [image.width / lens.width, image.height / lens.height];
  const slack = 4 * GRID;
  let reaches = false;
  for (let j = 0, k = 0; j < height; j++)
    for (let i = 0; i < width; i++, k += 2) {
      const ray = toRay(...planeAt(canvas, area.x + i * GRID, area.y + j * GRID));
      const seen = ray && pixelOf(lens, ...turned(rotation, ray));
      const u = (places[k] = seen ? seen[0] * sx : NaN);
      const v = (places[k + 1] = seen ? seen[1] * sy : NaN);
      if (u > -slack && v > -slack && u < image.width + slack && v < image.height + slack) reaches = true;
    }
  return reaches ? { width, height, cell: GRID, places } : undefined;
}
