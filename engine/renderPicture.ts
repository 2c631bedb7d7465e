import { type EncodedImage, emptyImage, type White } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { TILE } from '@/core/view/drawPicture';
import { type DrawnGraph } from '@/core/view/viewScene';
import { halfRows, inBands } from './inBands';
import { type MergeOptions } from './mergeFrames';
import { type WorkerPool } from './workerPool';

/**
 * What a node of light gives, as a picture, drawn in the pool.
 * @param crop full-size pixels of its grid
 * @param white of the codes; 1 keeps light beyond white
 */
export async function renderPicture(
  pool: WorkerPool,
  drawn: DrawnGraph,
  node: string,
  crop: Rectangle,
  white: White,
  level = 0,
  { signal, onProgress }: MergeOptions = {},
): Promise<EncodedImage> {
  const scale = 2 ** level;
  const area = {
    x: Math.ceil(crop.x / scale),
    y: Math.ceil(crop.y / scale),
    width: Math.max(1, Math.floor(crop.width / scale)),
    height: Math.max(1, Math.floor(crop.height / scale)),
  };
  const image = emptyImage(area.width, area.height, white);
  // rows of whole tiles: a tile that two strips share would be drawn twice
  const first = Math.floor(area.y / TILE);
  const strips = Array.from({ length: Math.ceil((area.y + area.height) / TILE) - first }, (_, k) => {
    const top = Math.max(area.y, (first + k) * TILE);
    const bottom = Math.min(area.y + area.height, (first + k + 1) * TILE);
    return { top: top - area.y, rows: bottom - top };
  });
  let done = 0;
  await inBands(
    pool,
    strips,
    (tasks, { top, rows: height }) =>
      tasks.draw(drawn, node, level, { ...area, y: area.y + top, height }, image, top),
    { signal, halves: halfRows(), onPart: (share) => onProgress?.((done += share)) },
  );
  return image;
}
