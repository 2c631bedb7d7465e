import { between, strict } from '../../recipe/schemaParts';
import { detailOperator, localMean } from '../detailOperator';
import { type PartKind } from '../partKind';
import { type SoftRange } from '../smoothRange';

/** standard deviation for the mean size of a normal value */
const SIGMA = Math.sqrt(Math.PI / 2);

/**
 * How noisy the picture is around each pixel, codes of 255: Immerkær's difference of Laplacians (1996) in a window. Texture counts as well:
 * what is meant is where single pixels differ from their neighbours.
 */
export function localNoise(luma: Float32Array, width: number, height: number): Float32Array {
  const difference = localMean(luma, width, height, (i, l, r, u, d) =>
    Math.abs(
      luma[i + u + l] +
        luma[i + u + r] +
        luma[i + d + l] +
        luma[i + d + r] -
        2 * (luma[i + u] + luma[i + d] + luma[i + l] + luma[i + r]) +
        4 * luma[i],
    ),
  );
  return difference.map((v) => (255 * SIGMA * v) / 6);
}

const noiseRange = detailOperator('noiseRange', 1, localNoise);

export const noise: PartKind<SoftRange> = {
  kind: 'noise',
  schema: strict({ from: between(-1, 256), to: between(-1, 256), soft: between(0, 100) }),
  plain: { from: 1.5, to: 255, soft: 0.5 },
  says: ({ from }) => `noise from ${Number(from.toFixed(1))} codes on`,
  operators: [noiseRange],
  compile: (graph, range, { picture, longEdge }) =>
    picture ? graph.add('noiseRange', { ...range, longEdge }, [picture]) : undefined,
};
