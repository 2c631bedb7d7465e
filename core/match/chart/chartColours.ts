import { type EncodedImage } from '../../raster/encodedImage';
import { lightOfCodes } from '../../raster/lightOfCodes';
import { transform } from '../../raster/matrix3';
import { quadMatrix } from '../../raster/quadMatrix';
import { CHART_COLUMNS, CHART_ROWS, type PatchLight } from './chartPatches';

/** Corners of the field of patches, seen in its own upright: left top, right top, right bottom, left bottom; pixels. */
export type ChartCorners = readonly (readonly [x: number, y: number])[];

/** What a patch shows. */
export interface PatchColour {
  readonly light: PatchLight;
  /** whether a channel is burnt out, or all but black: nothing can be told from it */
  readonly clipped: boolean;
}

/** part of a patch’s width that is looked at about its middle: its edges are soft, and blend with what lies between */
const PART = 0.5;
/** places along it */
const ALONG = 7;
/** part of the lowest and highest values that are left out: dust, gloss */
const TRIMMED = 0.2;
const FULL = 0.985;
const EMPTY = 0.004;

/** Corners of the field of patches in its own measure: a patch is one wide. */
const FIELD: ChartCorners = [
  [0, 0],
  [CHART_COLUMNS, 0],
  [CHART_COLUMNS, CHART_ROWS],
  [0, CHART_ROWS],
];

/** least of a corner: twice the area of its triangle, pixels² */
const LEAST_CORNER = 40;

/** Whether corners go round a field clockwise, none of them turned in: what a chart can look like from its front. */
export const isField = (corners: ChartCorners): boolean =>
  corners.length === 4 &&
  corners.every(([x, y], i) => {
    const [p, q] = [corners[(i + 3) % 4], corners[(i + 1) % 4]];
    return (x - p[0]) * (q[1] - y) - (y - p[1]) * (q[0] - x) > LEAST_CORNER;
  });

/** Middle of each patch, row by row. */
export function chartPlaces(corners: ChartCorners): readonly (readonly [x: number, y: number])[] {
  const matrix = isField(corners) ? quadMatrix(FIELD, corners) : undefined;
  if (!matrix) return [];
  return Array.from({ length: CHART_COLUMNS * CHART_ROWS }, (_, i) =>
    transform(matrix, (i % CHART_COLUMNS) + 0.5, Math.floor(i / CHART_COLUMNS) + 0.5),
  );
}

/**
 * Colours of the patches of a chart, row by row: trimmed means in linear light.
 * @returns undefined where the corners do not span a field, or a patch leaves the picture
 */
export function chartColours(image: EncodedImage, corners: ChartCorners): PatchColour[] | undefined {
  const matrix = isField(corners) ? quadMatrix(FIELD, corners) : undefined;
  if (!matrix) return undefined;
  const { width, height, data, white } = image;
  const light = lightOfCodes(image);
  const [full, empty] = [FULL, EMPTY].map((part) => light(white === 1 ? part : Math.round(part * white)));
  const colours: PatchColour[] = [];
  for (let patch = 0; patch < CHART_COLUMNS * CHART_ROWS; patch++) {
    const [column, row] = [patch % CHART_COLUMNS, Math.floor(patch / CHART_COLUMNS)];
    const values: [number[], number[], number[]] = [[], [], []];
    for (let k = 0; k < ALONG * ALONG; k++) {
      const along = (v: number): number => 0.5 + PART * ((v + 0.5) / ALONG - 0.5);
      const [x, y] = transform(matrix, column + along(k % ALONG), row + along(Math.floor(k / ALONG)));
      const [u, v] = [Math.round(x), Math.round(y)];
      if (!(u >= 0 && v >= 0 && u < width && v < height)) return undefined;
      values.forEach((list, c) => list.push(light(data[3 * (v * width + u) + c])));
    }
    const mean = (list: number[]): number => {
      const cut = Math.floor(TRIMMED * list.length);
      const kept = list.sort((a, b) => a - b).slice(cut, list.length - cut);
      return kept.reduce((a, b) => a + b) / kept.length;
    };
    const seen: PatchLight = [mean(values[0]), mean(values[1]), mean(values[2])];
    colours.push({
      light: seen,
      clipped: Math.max(...seen) >= full || Math.max(...seen) <= empty,
    });
  }
  return colours;
}
