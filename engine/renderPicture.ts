import { type EncodedImage, emptyImage, type White } from '@/core/raster/encodedImage';
import { type SampleSettings } from '@/core/graph/sample/samplePicture';
import { IDENTITY } from '@/core/raster/matrix3';
import { type Rectangle } from '@/core/raster/raster';
import { TILE } from '@/core/view/drawPicture';
import { type DrawnGraph } from '@/core/view/viewScene';
import { halfRows, inBands } from './inBands';
import { type MergeOptions } from './mergeOptions';
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
  const whole = untouched(drawn, node, crop, white, level);
  if (whole) return whole;
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

/** The picture that a node only reads, whole and as it lies, where it holds such codes: drawing it would give the very same. */
function untouched(
  { nodes, made }: DrawnGraph,
  hash: string,
  crop: Rectangle,
  white: White,
  level: number,
): EncodedImage | undefined {
  const node = nodes.get(hash);
  if (node?.kind !== 'samplePicture' || level > 0) return undefined;
  const { matrix } = node.settings as SampleSettings;
  const picture = made.get(node.inputs[0]);
  if (picture?.is !== 'picture' || matrix.some((v, i) => v !== IDENTITY[i])) return undefined;
  const [image] = picture.levels;
  const isWhole = crop.x === 0 && crop.y === 0 && crop.width === image.width && crop.height === image.height;
  return isWhole && image.white === white && !image.alpha ? image : undefined;
}
