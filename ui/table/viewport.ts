import { type Rectangle } from '@/core/raster/raster';

/** Screen pixels a picture pixel, and the point of the picture (pixel edges, 0…width) in the middle of the table. */
export interface Viewport {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

const MARGIN = 0.96;
const LARGEST = 16;

/** The whole picture, with a little of the table around it; never enlarged. */
export function fitAll(picture: Size, table: Size): Viewport {
  const zoom = Math.min(1, MARGIN * Math.min(table.width / picture.width, table.height / picture.height));
  return { zoom: zoom > 0 ? zoom : 1, x: picture.width / 2, y: picture.height / 2 };
}

/** A place and some of its surroundings, at most 1:1. */
export function showPlace(place: Rectangle, table: Size): Viewport {
  const zoom = Math.min(1, 0.6 * Math.min(table.width / place.width, table.height / place.height));
  return { zoom, x: place.x + place.width / 2, y: place.y + place.height / 2 };
}

/** Point of the picture under a point of the table. */
export function toPicture(v: Viewport, table: Size, sx: number, sy: number): [number, number] {
  return [v.x + (sx - table.width / 2) / v.zoom, v.y + (sy - table.height / 2) / v.zoom];
}

/** Point of the table over a point of the picture. */
export function toTable(v: Viewport, table: Size, x: number, y: number): [number, number] {
  return [(x - v.x) * v.zoom + table.width / 2, (y - v.y) * v.zoom + table.height / 2];
}

/** Zooms by a factor and keeps the point under (sx, sy) where it is; the picture stays within reach. */
export function zoomAbout(
  v: Viewport,
  picture: Size,
  table: Size,
  sx: number,
  sy: number,
  factor: number,
): Viewport {
  const least = fitAll(picture, table).zoom / 2;
  const zoom = Math.min(LARGEST, Math.max(least, v.zoom * factor));
  const [px, py] = toPicture(v, table, sx, sy);
  return keepNear(
    { zoom, x: px - (sx - table.width / 2) / zoom, y: py - (sy - table.height / 2) / zoom },
    picture,
  );
}

/** Moves by screen pixels. */
export function panBy(v: Viewport, picture: Size, dx: number, dy: number): Viewport {
  return keepNear({ ...v, x: v.x - dx / v.zoom, y: v.y - dy / v.zoom }, picture);
}

function keepNear(v: Viewport, picture: Size): Viewport {
  return {
    ...v,
    x: Math.min(picture.width, Math.max(0, v.x)),
    y: Math.min(picture.height, Math.max(0, v.y)),
  };
}

/** The level to render at and the pixels of it that are in sight; undefined when none are. */
export function visibleArea(
  v: Viewport,
  picture: Size,
  table: Size,
  deviceRatio: number,
): { level: number; area: Rectangle } | undefined {
  const level = Math.max(0, Math.floor(Math.log2(1 / (v.zoom * deviceRatio)) + 0.05));
  const scale = 2 ** level;
  const [width, height] = [picture.width >> level, picture.height >> level];
  const [left, top] = toPicture(v, table, 0, 0);
  const [right, bottom] = toPicture(v, table, table.width, table.height);
  const x = Math.max(0, Math.floor(left / scale));
  const y = Math.max(0, Math.floor(top / scale));
  const area = {
    x,
    y,
    width: Math.min(width, Math.ceil(right / scale)) - x,
    height: Math.min(height, Math.ceil(bottom / scale)) - y,
  };
  return area.width > 0 && area.height > 0 ? { level, area } : undefined;
}

/** The same part of another picture, as large: what lies at the same share of its sides is in the middle. */
export function beside({ zoom, x, y }: Viewport, own: Size, other: Size): Viewport {
  const [across, down] = [other.width / own.width, other.height / own.height];
  return { zoom: zoom / Math.max(across, down), x: x * across, y: y * down };
}
