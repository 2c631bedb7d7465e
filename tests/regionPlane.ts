import { evaluate } from '@/core/graph/evaluate';
import { buildGraph } from '@/core/graph/graph';
import { versionOf } from '@/core/graph/operators';
import { NO_CACHE } from '@/core/graph/tileCache';
import { maskOf } from '@/core/graph/wanted';
import { compileRegion } from '@/core/region/compileRegion';
import { type Region } from '@/core/region/region';

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
