import { type EncodedImage, emptyImage, type White } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { type ViewScene } from '@/core/view/viewScene';
import { halfRows, inBands } from './inBands';
import { type MergeOptions } from './mergeFrames';
import { type WorkerPool } from './workerPool';

const STRIP_PIXELS = 600_000;

/**
 * The finished picture: all layers, exposure and crop, at a level, in the pool.
 * @param crop full-size pixels of the reference
 */
export async function renderFinished(
  pool: WorkerPool,
  scene: ViewScene,
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
  const rows = Math.max(16, Math.ceil(STRIP_PIXELS / area.width));
  const strips = Array.from({ length: Math.ceil(area.height / rows) }, (_, k) => {
    const top = k * rows;
    return { top, rows: Math.min(rows, area.height - top) };
  });
  let done = 0;
  await inBands(
    pool,
    strips,
    (tasks, { top, rows: height }) =>
      tasks.finish(scene, level, { ...area, y: area.y + top, height }, image, top),
    { signal, halves: halfRows(), onPart: (share) => onProgress?.((done += share)) },
  );
  return image;
}
