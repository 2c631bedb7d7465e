import { describe, expect, test } from '@jest/globals';
import { translation, IDENTITY } from '@/core/raster/matrix3';
import { emptyImage } from '@/core/raster/encodedImage';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { inlinePool } from '@/tests/inlinePool';
import { fitBracket } from './fitBracket';

/** Frames whose fits are told: a pair is fitted when their exposures are no more than `reach` apart. */
function told(stops: readonly number[], places: readonly number[], reach: number) {
  const frames = stops.map((s) => ({ image: emptyImage(60, 40, 255), stops: s }));
  const placeOf = new Map(frames.map((f, i) => [f.image, places[i]]));
  let asked = 0;
  const pool = inlinePool(2, (tasks) => ({
    ...tasks,
    mayLieStill: () => true,
    register: (reference, frame, options) => {
      asked++;
      const fit: Registration = {
        ...referenceRegistration(),
        matrix: translation((placeOf.get(frame) ?? 0) - (placeOf.get(reference) ?? 0), 0),
        bound: 0.01,
      };
      return Math.abs(options.stops) <= reach ? fit : { ...fit, fitted: false, why: 'too little is shared' };
    },
  }));
  const direct = (reference: number): Registration[] =>
    frames.map((f, i) => ({
      ...referenceRegistration(),
      matrix: translation(places[i] - places[reference], 0),
      ...(Math.abs(f.stops - stops[reference]) <= reach
        ? {}
        : { fitted: false, why: 'too little is shared' }),
    }));
  return { frames, pool, direct, asked: () => asked };
}

describe('frames that cannot be fitted to the reference', () => {
  test('are led by the nearest exposure, one after the other', async () => {
    const { frames, pool, direct } = told([-4, -2, 0, 2, 4], [0, 3, 5, 9, 12], 2);
    const fits = await fitBracket(pool, { frames, reference: 1, fits: direct(1) }, { motion: 'auto' });
    expect(fits.map((f) => f.fitted)).toEqual([true, true, true, true, true]);
    fits.forEach((f, i) => expect(f.matrix[2]).toBeCloseTo([0, 3, 5, 9, 12][i] - 3, 9));
    // two steps are less sure than one
    expect(fits[4].bound).toBeGreaterThan(fits[3].bound);
  });

  test('stay out where no way leads to them, after three tries', async () => {
    const { frames, pool, direct, asked } = told([0, 1, 2, 3, 9], [0, 4, 5, 7, 0], 2);
    const fits = await fitBracket(pool, { frames, reference: 1, fits: direct(1) }, { motion: 'auto' });
    expect(fits.map((f) => f.fitted)).toEqual([true, true, true, true, false]);
    expect(asked()).toBe(3);
  });

  test('of a tripod stand still with the others, and nothing is resampled', async () => {
    const { frames, pool, direct, asked } = told([-2, 0, 2, 6], [0.03, 0, -0.05, 0], 2);
    const fits = await fitBracket(pool, { frames, reference: 1, fits: direct(1) }, { motion: 'auto' });
    for (const fit of fits) expect(fit).toMatchObject({ fitted: true, why: '', matrix: IDENTITY });
    expect(asked()).toBe(0);
  });
});
