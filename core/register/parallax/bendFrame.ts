import { kernels } from '../../kernels/kernels';
import { type PlaceGrid, warpByGrid } from '../../kernels/warpKernel';
import { drawByGrid } from '../../raster/drawByGrid';
import { emptyImage, type EncodedImage } from '../../raster/encodedImage';
import { type Allocate } from '../../raster/raster';
import { type LocalBend } from './localBend';

/** A frame as its bend draws it (Lanczos-3): the part of it that needs nothing from beyond its border. */
export function bendFrame(image: EncodedImage, bend: LocalBend, allocate?: Allocate): EncodedImage {
  const { width, height, white } = image;
  const { inside } = bend;
  const out = emptyImage(inside.width, inside.height, white, allocate);
  const grid = placesOf(bend);
  const k = kernels();
  const { planes } = k
    ? warpByGrid(k, image, grid, width, height, -Infinity)
    : drawByGrid(image, grid, width, height, 'lanczos', Infinity);
  const [most, round] = white === 1 ? [Infinity, 0] : [white, 0.5];
  planes.forEach((plane, c) => {
    for (let y = 0, o = c; y < inside.height; y++)
      for (let i = (inside.y + y) * width + inside.x, x = 0; x < inside.width; x++, i++, o += 3)
        out.data[o] = white === 1 ? plane[i] : Math.max(0, Math.min(most, plane[i] * white + round));
  });
  return out;
}

/** Where each vertex of the bent frame is seen in the frame as it was. */
function placesOf({ columns, rows, cell, shifts }: LocalBend): PlaceGrid {
  const places = new Float64Array(2 * columns * rows);
  for (let j = 0, k = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, k += 2) {
      places[k] = i * cell + shifts[k];
      places[k + 1] = j * cell + shifts[k + 1];
    }
  return { width: columns, height: rows, cell, places };
}
