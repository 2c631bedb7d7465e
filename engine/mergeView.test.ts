import { describe, expect, test } from '@jest/globals';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { transform, translation } from '@/core/raster/matrix3';
import { referenceRegistration } from '@/core/register/registration';
import { inlinePool } from '@/tests/inlinePool';
import { paint, waves } from '@/tests/paint';
import { mergeView, throughView } from './mergeView';

const [fine, wide] = [waves(71, 40), waves(72, 16)];

/** One direction, moved by dx and exposed by `stops`. */
function shot(stops: number, dx: number): EncodedImage {
  const brighten = encodedGain(stops);
  return paint(420, 280, (x, y) => {
    const v = 0.15 + 0.35 * fine(x + dx, y) + 0.25 * wide(x + dx, y);
    return [brighten(v), brighten(v * 0.95), brighten(v * 0.9)];
  });
}

describe('the bracket of one view', () => {
  test('is fitted to its head and merged in its geometry; what cannot be fitted is left out', async () => {
    const pool = inlinePool(2);
    const frames = [
      { image: shot(-1.5, 2.25), stops: -1.5 },
      { image: shot(0, 0), stops: 0 },
      { image: paint(300, 280, () => [0.5, 0.5, 0.5]), stops: 1.5 },
    ];
    const { levels, registrations } = await mergeView(pool, frames, 1, PAPER_MEASURES);
    expect(registrations.map((r) => r.fitted)).toEqual([true, true, false]);
    expect(registrations[2].why).toContain('300 × 280');
    // what stands at x in the head stands at x − dx in a frame whose content was moved by dx
    expect(transform(registrations[0].matrix, 200, 140)[0]).toBeCloseTo(200 - 2.25, 1);
    expect(levels[0]).toMatchObject({ width: 420, height: 280 });
    expect(levels[1].width).toBe(210);

    // what was measured before is not measured again
    const known = [
      { ...referenceRegistration(), matrix: translation(-2.25, 0) },
      undefined,
      registrations[2],
    ];
    const again = await mergeView(pool, frames, 1, PAPER_MEASURES, known);
    expect(again.registrations[0]).toBe(known[0]);
    expect(again.registrations[2]).toBe(registrations[2]);
    pool.close();
  });

  test('lies on the panorama’s reference through its head', () => {
    const view = { ...referenceRegistration(), matrix: translation(100, 0) };
    const own = { ...referenceRegistration(), matrix: translation(0, 3) };
    const through = throughView(view, own);
    expect(transform(through.matrix, 10, 10)).toEqual([110, 13]);
    expect(through.fitted).toBe(true);
    const lost = { ...view, fitted: false, why: 'it shares too little' };
    expect(throughView(lost, own)).toMatchObject({ fitted: false, why: 'it shares too little' });
    const alone = { ...own, fitted: false, why: 'it is another size' };
    expect(throughView(lost, alone)).toMatchObject({ fitted: false, why: 'it is another size' });
  });
});
