import { type Rectangle } from '@/core/raster/raster';
import { colourNow } from '../tokens';
import { type Sheet } from './sheetLoader';
import { type Size, toTable, type Viewport } from './viewport';

/** Draws sheets where they lie; with `wipeAt` only right of that column of the picture, with the line itself. */
export function drawTable(
  context: CanvasRenderingContext2D,
  table: Size,
  viewport: Viewport,
  picture: Size,
  sheets: readonly Sheet[],
  crop?: Rectangle,
  wipeAt?: number,
): void {
  context.save();
  if (wipeAt !== undefined) {
    const [x] = toTable(viewport, table, wipeAt, 0);
    context.beginPath();
    context.rect(x, 0, table.width - x, table.height);
    context.clip();
  } else {
    context.fillStyle = colourNow('table');
    context.fillRect(0, 0, table.width, table.height);
  }
  const [left, top] = toTable(viewport, table, 0, 0);
  const [right, bottom] = toTable(viewport, table, picture.width, picture.height);
  context.save();
  context.beginPath();
  context.rect(left, top, right - left, bottom - top);
  context.clip();
  for (const { canvas, level, area } of sheets) {
    const scale = 2 ** level;
    const [x, y] = toTable(viewport, table, area.x * scale, area.y * scale);
    // pixels are shown as pixels from 3:1 on
    context.imageSmoothingEnabled = viewport.zoom * scale < 3;
    // levels keep this within a factor of two, where bilinear is enough
    context.imageSmoothingQuality = 'low';
    // levels drop an odd last row or column; stretch the last one over it
    const atRight = area.x + area.width >= picture.width >> level;
    const atBottom = area.y + area.height >= picture.height >> level;
    const w = (atRight ? picture.width - area.x * scale : area.width * scale) * viewport.zoom;
    const h = (atBottom ? picture.height - area.y * scale : area.height * scale) * viewport.zoom;
    context.drawImage(canvas, x, y, w, h);
  }
  context.restore();
  if (crop) {
    const [cl, ct] = toTable(viewport, table, crop.x, crop.y);
    const [cr, cb] = toTable(viewport, table, crop.x + crop.width, crop.y + crop.height);
    context.fillStyle = colourNow('table');
    context.globalAlpha = 0.86;
    context.beginPath();
    context.rect(left - 1, top - 1, right - left + 2, bottom - top + 2);
    context.rect(cl, ct, cr - cl, cb - ct);
    context.fill('evenodd');
  }
  context.restore();
}
