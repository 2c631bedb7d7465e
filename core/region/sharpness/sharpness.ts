import { between, strict } from '../../recipe/schemaParts';
import { detailOperator, localMean } from '../detailOperator';
import { type PartKind } from '../partKind';
import { type SoftRange } from '../smoothRange';

/** sum-modified Laplacian, codes of 255, at which half of the scale is reached */
const HALF = 12;

/**
 * How sharp the picture is around each pixel, 0 even … 1: sum-modified Laplacian (Nayar & Nakagawa 1994) in a window, on a scale that ends
 * softly.
 */
export function localSharpness(luma: Float32Array, width: number, height: number): Float32Array {
  const modified = localMean(luma, width, height, (i, l, r, u, d) => {
    const twice = 2 * luma[i];
    return Math.abs(twice - luma[i + l] - luma[i + r]) + Math.abs(twice - luma[i + u] - luma[i + d]);
  });
  return modified.map((v) => (255 * v) / (255 * v + HALF));
}

const sharpnessRange = detailOperator('sharpnessRange', 1, localSharpness);

export const sharpness: PartKind<SoftRange> = {
  kind: 'sharpness',
  schema: strict({ from: between(-1, 2), to: between(-1, 2), soft: between(0, 1) }),
  plain: { from: 0.4, to: 1, soft: 0.2 },
  says: ({ from, to }) => `sharpness ${Math.round(100 * from)} to ${Math.round(100 * to)} %`,
  operators: [sharpnessRange],
  compile: (graph, range, { picture, longEdge }) =>
    picture ? graph.add('sharpnessRange', { ...range, longEdge }, [picture]) : undefined,
};
