import { describe, expect, test } from '@jest/globals';
import { paint, waves } from '@/tests/paint';
import { encodedGain } from '../raster/encodedGain';
import { type EncodedImage } from '../raster/encodedImage';
import { translation } from '../raster/matrix3';
import { referenceRegistration, type Registration } from './registration';
import { mayLieStill, stillRegistration, stoodStill } from './standsStill';

const [fine, wide] = [waves(31, 24), waves(32, 90)];

function shot(dx: number, stops: number): EncodedImage {
  const brighten = encodedGain(stops);
  return paint(640, 420, (x, y) => {
    const v = 0.1 + 0.35 * fine(x + dx, y) + 0.3 * wide(x + dx, y);
    return [brighten(v), brighten(v * 0.95), brighten(v * 0.9)];
  });
}

const fit = (dx: number, fitted = true): Registration => ({
  ...referenceRegistration(),
  matrix: translation(dx, 0),
  fitted,
});

describe('a tripod', () => {
  test('is one when no fit moves a place by a tenth of a pixel; what could not be fitted says nothing', () => {
    expect(stoodStill([fit(0.05), fit(-0.08), fit(30, false)], 640, 420)).toBe(true);
    expect(stoodStill([fit(0.05), fit(0.2)], 640, 420)).toBe(false);
    expect(stoodStill([fit(0, false)], 640, 420)).toBe(false);
  });

  test('a turn that moves only the corners is no tripod', () => {
    const turn = 0.001;
    const turned = { ...fit(0), matrix: [1, -turn, 0, turn, 1, 0, 0, 0, 1] as const };
    expect(stoodStill([{ ...turned, matrix: [...turned.matrix] }], 640, 420)).toBe(false);
  });

  test('a frame at the same place may stand still, a moved one may not, one that shows nothing may', () => {
    const reference = shot(0, 0);
    expect(mayLieStill(reference, shot(0, 2), 2)).toBe(true);
    expect(mayLieStill(reference, shot(9, 2), 2)).toBe(false);
    expect(mayLieStill(reference, shot(0, 9), 9)).toBe(true);
    expect(stillRegistration(fit(0.05, false))).toMatchObject({ fitted: true, scale: 1, why: '' });
  });
});
