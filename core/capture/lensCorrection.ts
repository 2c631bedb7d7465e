import { kernels } from '../kernels/kernels';
import { type PlaceGrid, warpByGrid } from '../kernels/warpKernel';
import { drawByGrid } from '../raster/drawByGrid';
import { type Allocate } from '../raster/raster';
import { type EncodedImage, emptyImage } from '../raster/encodedImage';
import { linearToSrgb, srgbToLinear } from '../raster/srgb';
import { type LensCorrection } from './lensFaults';

/** pixels between the points of the map */
const CELL = 8;

/**
 * A picture without its lens's distortion, lateral colour error and vignetting (the radial model of Brown 1966, first term), Lanczos-3.
 * Corners that a pincushion correction leaves empty repeat the border.
 */
export function correctLens(image: EncodedImage, lens: LensCorrection, allocate?: Allocate): EncodedImage {
  const { width, height, white } = image;
  const out = emptyImage(width, height, white, allocate);
  const draw = (grows: number): readonly Float32Array[] => {
    const grid = placesOf(width, height, lens.distortion, 1 + grows);
    const k = kernels();
    const drawn = k
      ? warpByGrid(k, image, grid, width, height, -Infinity)
      : drawByGrid(image, grid, width, height, 'lanczos', Infinity);
    return drawn.planes;
  };
  const green = draw(0);
  const planes = [
    lens.red === 0 ? green[0] : draw(lens.red)[0],
    green[1],
    lens.blue === 0 ? green[2] : draw(lens.blue)[2],
  ];
  const gains = vignetteGains(width, height, lens.vignette);
  const most = white === 1 ? Infinity : white;
  const round = white === 1 ? 0 : 0.5;
  planes.forEach((plane, c) => {
    for (let i = 0, o = c; i < plane.length; i++, o += 3) {
      const v = gains ? linearToSrgb(srgbToLinear(plane[i]) * gains[i]) : plane[i];
      out.data[o] = white === 1 ? v : Math.max(0, Math.min(most, v * white + round));
    }
  });
  return out;
}

/** Where each point of the corrected picture is seen in the one as shot. */
function placesOf(width: number, height: number, distortion: number, grows: number): PlaceGrid {
  const [w, h] = [Math.ceil(width / CELL) + 1, Math.ceil(height / CELL) + 1];
  const places = new Float64Array(2 * w * h);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = 0.25 * (width * width + height * height);
  for (let j = 0, k = 0; j < h; j++)
    for (let i = 0; i < w; i++, k += 2) {
      const [x, y] = [i * CELL - cx, j * CELL - cy];
      const seen = grows * (1 + (distortion * (x * x + y * y)) / corner);
      places[k] = cx + x * seen;
      places[k + 1] = cy + y * seen;
    }
  return { width: w, height: h, cell: CELL, places };
}

function vignetteGains(width: number, height: number, stops: number): Float32Array | undefined {
  if (stops === 0) return undefined;
  const gains = new Float32Array(width * height);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = 0.25 * (width * width + height * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      gains[i] = 2 ** ((stops * ((x - cx) * (x - cx) + (y - cy) * (y - cy))) / corner);
  return gains;
}
