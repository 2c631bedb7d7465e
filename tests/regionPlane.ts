import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { versionOf } from '@/core/graph/operators';
import { type At, type Value } from '@/core/graph/tile';
import { NO_CACHE } from '@/core/graph/tileCache';
import { maskOf } from '@/core/graph/wanted';
import { compileRegion } from '@/core/region/compileRegion';
import { EVERYWHERE, type Part, type Region } from '@/core/region/region';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY } from '@/core/raster/matrix3';
import { imageLevels } from '@/engine/tasks';

/** The mask of a region that needs no picture, 0…1, on a picture of a size. */
export function regionPlane(region: Region, width: number, height: number): Float32Array {
  const g = buildGraph(versionOf);
  const place = { longEdge: Math.max(width, height), named: () => undefined };
  const hash = compileRegion(g, region, place);
  if (hash === undefined) return new Float32Array(width * height).fill(1);
  const area = { x: 0, y: 0, width, height };
  const world = { made: () => undefined, cache: NO_CACHE, keeps: () => false };
  return maskOf(evaluate(g.graph, hash, { level: 0, area, kernel: 'bilinear' }, world), 'a test').plane;
}

/** A region of one part. */
export const regionOf = (part: Part): Region => ({
  ...{ ...EVERYWHERE, id: 'r', name: 'r' },
  parts: [{ how: 'add', part, turned: false, on: true }],
});

/** The mask of a region that looks at a picture, 0…1, at a place of it. @throws Error where the region is everywhere */
export function regionOver(
  region: Region,
  image: EncodedImage,
  at: Pick<At, 'level' | 'area'>,
): Float32Array {
  const g = buildGraph(versionOf);
  const picture = g.add('samplePicture', { matrix: IDENTITY }, [g.add('frame', { hash: 'a' })]);
  const longEdge = Math.max(image.width, image.height);
  const hash = compileRegion(g, region, { longEdge, picture, named: () => undefined });
  if (hash === undefined) throw new Error('everywhere');
  const value: Value = { is: 'picture', levels: imageLevels(image) };
  const world = { made: () => value, cache: NO_CACHE, keeps: () => false };
  return maskOf(evaluate(g.graph, hash, { ...at, kernel: 'bilinear' }, world), 'a test').plane;
}
