import { describe, expect, test } from '@jest/globals';
import { plainNode } from './plainNode';

/*
 * The light of real environments (npm @pmndrs/assets 1.7.0, CC0), shot as brackets of −4 … +4 EV in 8 bits with the noise of photons and
 * of reading out, comes back within 2 % where a frame is well exposed. Each frame is a crop at another place, so its truth is exact.
 */

describe('the light of real environments', () => {
  test.each(['bridge', 'sunset', 'night', 'workshop'])(
    '%s',
    async (name) => {
      const { fitted, places, worst } = await plainNode<Record<string, number>>(
        'tests/radianceTruth.ts',
        name,
      );
      if (process.env.MARSH_FIGURES) console.log(name, fitted, places, worst);
      // the lightest frame of two maps, burnt all over, finds no way to the others: these stay fitted
      expect(fitted).toBeGreaterThanOrEqual(4);
      expect(places).toBeGreaterThan(2000);
      expect(worst).toBeLessThan(0.02);
    },
    120_000,
  );
});
