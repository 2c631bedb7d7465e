import { type Rectangle } from '@/core/raster/raster';
import { colourNow } from '../tokens';
import { type Sheet } from './sheetLoader';
import { type Size, toTable, type Viewport } from './viewport';

/** Pixels of the screen that a part of the picture has a share in: those around it too, as pixels are mixed where they are scaled. @param pixel of the sheet, pixels of the picture */
function partOnTable(
  { x, y, width, height }: Rectangle,
  pixel: number,
  viewport: Viewport,
  table: Size,
): Rectangle {
  const [left, top] = toTable(viewport, table, x - pixel, y - pixel);
  const [right, bottom] = toTable(viewport, table, x + width + pixel, y + height + pixel);
  const ratio = window.devicePixelRatio;
  const out = (v: number): number => Math.ceil(v * ratio + 1) / ratio;
  return { x: -out(-left), y: -out(-top), width: out(right) + out(-left), height: out(bottom) + out(-top) };
}

/**
 * Draws sheets where they lie; with `wipeAt` only right of that column of the picture, with the line itself.
 * @param part only this of the picture (pixel edges) differs from what was drawn last
 */
export function drawTable(
  context: CanvasRenderingContext2D,
  table: Size,
  viewport: Viewport,
  picture: Size,
  sheets: readonly Sheet[],
  crop?: Rectangle,
  wipeAt?: number,
  part?: Rectangle,
): void {
  context.save();
  if (part) {
    const coarsest = 2 ** Math.max(0, ...sheets.map((s) => s.level));
    const on = partOnTable(part, coarsest, viewport, table);
    context.beginPath();
    context.rect(on.x, on.y, on.width, on.height);
    context.clip();
  }
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
