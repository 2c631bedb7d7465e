import { coveringAt, cutPlane, resampled } from '../graph/resample';
import { type Operator, operator } from '../graph/operator';
import { lightOf } from '../graph/wanted';
import { boxMean } from '../raster/boxMean';
import { detailLevel } from './detailLevel';
import { smoothRange, type SoftRange } from './smoothRange';

/** Pixels around a place that are looked at. */
const MARGIN = 8;

/** A range of a local measure of detail, on a picture of so long an edge. */
export interface DetailRange extends SoftRange {
  readonly longEdge: number;
}

/**
 * An operator that measures detail around each pixel, always at the same size of the picture, and says how well it is as wished.
 * @param measure of encoded luma, one value a pixel
 */
export function detailOperator(
  kind: string,
  version: number,
  measure: (luma: Float32Array, width: number, height: number) => Float32Array,
): Operator {
  const at = (settings: DetailRange, place: Parameters<typeof coveringAt>[0]) =>
    coveringAt(place, detailLevel(settings.longEdge), MARGIN);
  return operator<DetailRange>({
    kind,
    version,
    gives: 'mask',
    works: 'encoded',
    needs: at,
    run: ([input], settings, place) => {
      const from = at(settings, place);
      const { width, height } = from.area;
      const [R, G, B] = lightOf(input, kind).planes;
      const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
      const shares = measure(luma, width, height).map((v) => smoothRange(v, settings));
      const plane =
        from.level === place.level ? cutPlane(shares, from.area, place.area) : resampled(shares, from, place);
      return { is: 'mask', plane };
    },
  });
}

/** Mean over a window of five pixels of what a function gives for each pixel and its eight neighbours, edges continued. */
export function localMean(
  luma: Float32Array,
  width: number,
  height: number,
  of: (at: number, left: number, right: number, up: number, down: number) => number,
): Float32Array {
  const out = new Float32Array(luma.length);
  for (let y = 0, i = 0; y < height; y++) {
    const up = y > 0 ? -width : 0;
    const down = y < height - 1 ? width : 0;
    for (let x = 0; x < width; x++, i++) out[i] = of(i, x > 0 ? -1 : 0, x < width - 1 ? 1 : 0, up, down);
  }
  return boxMean(out, width, height, 2);
}
