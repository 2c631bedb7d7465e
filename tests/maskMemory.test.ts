import { expect, test } from '@jest/globals';
import { plainNode } from './plainNode';

/** bytes that a worker may take for the mask of any region at any legal size, on 24 MP */
const BOUND = 200e6;

test.each(['grow', 'feather', 'follow', 'all'])(
  'a mask of 24 MP with the widest %s takes less than 200 MB',
  async (shape) => {
    const { bytes } = await plainNode<{ bytes: number }>('tests/maskMemory.ts', shape);
    if (process.env.MARSH_FIGURES) console.log(shape, Math.round(bytes / 1e6));
    expect(bytes).toBeGreaterThan(0);
    expect(bytes).toBeLessThan(BOUND);
  },
  120_000,
);
