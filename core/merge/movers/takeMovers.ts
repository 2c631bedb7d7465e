import { encodedGain } from '../../raster/encodedGain';
import { type Rectangle, sharedFloats } from '../../raster/raster';
import { gridRow } from '../../raster/reducedGrid';
import { linearToSrgb, srgbToLinear } from '../../raster/srgb';
import { type MoverTakes } from '../fusionPlan';
import { type Movers } from './mover';

/** One softening pass on the reduced grid: a box of three. */
export function softened(plane: Float32Array, w: number, h: number): Float32Array {
  const out = sharedFloats(plane.length);
  // most rows hold none of it
  const some = Array.from({ length: h }, (_, y) => plane.subarray(y * w, (y + 1) * w).some((v) => v > 0));
  for (let y = 0; y < h; y++) {
    if (!some[y] && !some[y - 1] && !some[y + 1]) continue;
    for (let x = 0; x < w; x++) {
      let sum = 0;
      let n = 0;
      for (let j = Math.max(0, y - 1); j <= Math.min(h - 1, y + 1); j++)
        for (let k = Math.max(0, x - 1); k <= Math.min(w - 1, x + 1); k++, n++) sum += plane[j * w + k];
      out[y * w + x] = sum / n;
    }
  }
  return out;
}

/**
 * Which frame makes each mover, softened at the edges, for {@link takeMovers}.
 * @param stops exposure of each merged frame, EV on one scale
 * @returns undefined when nothing moved
 */
export function moverTakes(movers: Movers, stops: readonly number[]): MoverTakes | undefined {
  const { width: w, height: h, level, regions, list } = movers;
  if (!regions.some((r) => r > 0)) return undefined;
  const planes = stops.map((_, f) => {
    const plane = Float32Array.from(regions, (r) => (r > 0 && list[r - 1].frame === f ? 1 : 0));
    return plane.some((v) => v > 0) ? softened(plane, w, h) : undefined;
  });
  return { width: w, height: h, level, stops, planes };
}

/**
 * Where something moved, puts one frame's picture into all the others, brightened to their exposure: they then agree, so that no
 * ghost is left at any level of a pyramid, and the place is weighed and toned like everything around it.
 * @param pictures [frame][channel] encoded planes of `area` of the full-size grid, changed in place
 */
export function takeMovers(
  pictures: readonly (readonly Float32Array[])[],
  area: Rectangle,
  takes: MoverTakes,
): void {
  if (takes.gains) return layThings(pictures, area, takes, takes.gains);
  const { stops, planes } = takes;
  const makers = planes.flatMap((take, from) =>
    take ? [{ from, take, brighten: stops.map((s) => encodedGain(s - stops[from])) }] : [],
  );
  const shares = makers.map(() => new Float32Array(area.width));
  const own = pictures.map(() => new Float32Array(area.width));
  for (let y = 0; y < area.height; y++) {
    const touched = makers.map(({ take }, m) => gridRow(shares[m], take, takes, area.x, y + area.y));
    if (!touched.some(Boolean)) continue;
    const [start, end] = [y * area.width, (y + 1) * area.width];
    for (let c = 0; c < 3; c++) {
      // all is read before anything is written: a pixel must not be made from one that was replaced
      own.forEach((row, f) => row.set(pictures[f][c].subarray(start, end)));
      makers.forEach(({ from, brighten }, m) => {
        if (!touched[m]) return;
        for (let to = 0; to < own.length; to++)
          if (to !== from)
            layRow(pictures[to][c].subarray(start, end), shares[m], own[from], own[to], brighten[to]);
      });
    }
  }
}

/** Moves a row by its shares from what a frame shows to what another one shows, brightened. */
function layRow(
  out: Float32Array,
  shares: Float32Array,
  from: Float32Array,
  own: Float32Array,
  brighten: (encoded: number) => number,
): void {
  for (let x = 0; x < out.length; x++) if (shares[x] > 0) out[x] += shares[x] * (brighten(from[x]) - own[x]);
}

/** Lays things into all pictures alike, in the light that they are given. */
function layThings(
  pictures: readonly (readonly Float32Array[])[],
  area: Rectangle,
  takes: MoverTakes,
  gains: readonly (readonly Float32Array[] | undefined)[],
): void {
  const shares = new Float32Array(area.width);
  const gain = new Float32Array(area.width);
  takes.planes.forEach((take, from) => {
    const own = gains[from];
    if (!take || !own) return;
    for (let y = 0; y < area.height; y++) {
      if (!gridRow(shares, take, takes, area.x, y + area.y)) continue;
      for (let c = 0; c < 3; c++) {
        gridRow(gain, own[c], takes, area.x, y + area.y);
        for (let x = 0, at = y * area.width; x < area.width; x++, at++) {
          if (shares[x] <= 0) continue;
          const light = gain[x] * srgbToLinear(Math.max(0, pictures[from][c][at]));
          const laid = Math.min(1, linearToSrgb(light));
          for (const picture of pictures) picture[c][at] += shares[x] * (laid - picture[c][at]);
        }
      }
    }
  });
}
