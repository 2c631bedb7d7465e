import { describe, expect, test } from '@jest/globals';
import { translation, IDENTITY } from '@/core/raster/matrix3';
import { emptyImage } from '@/core/raster/encodedImage';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { inlinePool } from '@/tests/inlinePool';
import { type SetKind } from '@/core/capture/setKind';
import { fitBracket } from './fitBracket';
import { fitSet } from './fitSet';

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

describe('frames in other light', () => {
  /** Frames that fit by tones to their neighbours in time alone, and by edges to all but the last. */
  async function fitted(kind: SetKind) {
    const images = [0, 1, 2, 3, 4].map(() => emptyImage(60, 40, 255));
    const asked: string[] = [];
    const pool = inlinePool(2, (tasks) => ({
      ...tasks,
      mayLieStill: () => false,
      register: (reference, frame, { light }) => {
        const [a, b] = [images.indexOf(reference), images.indexOf(frame)];
        asked.push(`${a} ${b}${light ? ' edges' : ''}`);
        const byTones = Math.abs(a - b) === 1 && a + b !== 5 && a + b !== 7;
        const fits = byTones || (light === 'differs' && b !== 4);
        return {
          ...referenceRegistration(),
          ...(fits ? {} : { fitted: false, why: 'too little is shared' }),
          ...(fits && !byTones ? { by: 'edges' as const } : {}),
        };
      },
    }));
    const frames = images.map((image) => ({ levels: [image], facts: {}, stops: 0 }));
    const { registrations } = await fitSet(pool, kind, frames, [0, 1, 2, 3, 4], 0, { motion: 'auto' });
    return { asked, how: registrations.map((r) => (r.fitted ? (r.by ?? 'tones') : 'out')) };
  }

  test('moments are led by their neighbours in time, and compared by edges where those do not reach', async () => {
    const { asked, how } = await fitted('moments');
    // 1 fits by itself, 2 by way of it; from 2 on the light has changed
    expect(how).toEqual(['tones', 'tones', 'tones', 'edges', 'out']);
    expect(asked.filter((a) => a.endsWith('edges')).sort()).toEqual(['0 3 edges', '0 4 edges']);
  });

  test('alternates are compared by edges at once, brackets never', async () => {
    expect((await fitted('swap')).how).toEqual(['tones', 'tones', 'edges', 'edges', 'out']);
    const { asked, how } = await fitted('bracket');
    expect(asked.some((a) => a.endsWith('edges'))).toBe(false);
    expect(how).toEqual(['tones', 'tones', 'tones', 'out', 'out']);
  });
});
