import { describe, expect, test } from '@jest/globals';
import { emptyImage } from '@/core/raster/encodedImage';
import { translation } from '@/core/raster/matrix3';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { inlinePool } from '@/tests/inlinePool';
import { fitFocus } from './fitFocus';

/** Frames whose fits are told: a pair is fitted as far apart as `reach`, in the order of focus. @param places of each frame, pixels */
function told(places: readonly number[], reach: (from: number, to: number) => boolean) {
  const frames = places.map(() => ({ image: emptyImage(60, 40, 255), stops: 0 }));
  const indexOf = new Map(frames.map((f, i) => [f.image, i]));
  const asked: string[] = [];
  const pool = inlinePool(2, (tasks) => ({
    ...tasks,
    register: (reference, frame, { softness }) => {
      const [i, j] = [indexOf.get(reference) ?? 0, indexOf.get(frame) ?? 0];
      asked.push(`${i} ${j} ${softness ?? 'alike'}`);
      const fit: Registration = {
        ...referenceRegistration(),
        matrix: translation(places[j] - places[i], 0),
        bound: 0.01,
      };
      return reach(i, j) ? fit : { ...fit, fitted: false, why: 'too little is shared' };
    },
  }));
  return { frames, pool, asked };
}

const near = (i: number, j: number): boolean => Math.abs(i - j) <= 1;
const PLACES = [0, 3, 5, 9, 12];
const ORDER = [0, 1, 2, 3, 4];

describe('frames of other focus', () => {
  test('are each fitted to the next one towards the reference, and the steps are joined', async () => {
    const { frames, pool, asked } = told(PLACES, near);
    const fits = await fitFocus(pool, frames, ORDER, 2, { motion: 'similarity' });
    fits.forEach((f, i) => {
      expect(f.fitted).toBe(true);
      expect(f.matrix[2]).toBeCloseTo(PLACES[i] - PLACES[2], 9);
    });
    expect(asked.sort()).toEqual(['1 0 differs', '2 1 differs', '2 3 differs', '3 4 differs']);
    // two steps are less sure than one
    expect(fits[4].bound).toBeGreaterThan(fits[3].bound);
  });

  test('are fitted to the reference where a step does not hold, and lead on from there', async () => {
    const { frames, pool, asked } = told(PLACES, (i, j) => `${i} ${j}` !== '1 0' && Math.abs(i - j) <= 2);
    const fits = await fitFocus(pool, frames, ORDER, 2, { motion: 'similarity' });
    expect(fits.every((f) => f.fitted)).toBe(true);
    expect(fits[0].matrix[2]).toBeCloseTo(-5, 9);
    expect(asked).toContain('2 0 differs');
  });

  test('stay out where no way leads to them', async () => {
    const { frames, pool } = told(PLACES, (i, j) => near(i, j) && i !== 4 && j !== 4);
    const fits = await fitFocus(pool, frames, ORDER, 1, { motion: 'similarity' });
    expect(fits.map((f) => f.fitted)).toEqual([true, true, true, true, false]);
    expect(fits[4].why).not.toBe('');
  });

  test('are held to a part of the reference alone, where one is drawn', async () => {
    const { frames, pool, asked } = told(PLACES, () => true);
    const region = { x: 10, y: 10, width: 20, height: 20 };
    await fitFocus(pool, frames, ORDER, 1, { motion: 'similarity', region });
    expect(asked.sort()).toEqual(['1 0 differs', '1 2 differs', '1 3 differs', '1 4 differs']);
  });
});
