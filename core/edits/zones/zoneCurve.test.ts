import { describe, expect, test } from '@jest/globals';
import { zoneCurve, type ZoneMove } from './zoneCurve';

describe('zones', () => {
  test('no move is no change, at every tone', () => {
    const curve = zoneCurve([{ at: 0, by: 0 }]);
    for (let s = -9; s <= 3; s += 0.37) expect(curve(s)).toBe(s);
  });

  test('the curve goes through every moved zone and runs on beside them', () => {
    const zones: ZoneMove[] = [
      { at: -6, by: 0.5 },
      { at: -3, by: 1 },
      { at: 0, by: 0 },
      { at: 2.4, by: -0.4 },
    ];
    const curve = zoneCurve(zones);
    for (const { at, by } of zones) expect(curve(at)).toBeCloseTo(at + by, 9);
    expect(curve(-9)).toBeCloseTo(-8.5, 9);
    expect(curve(4)).toBeCloseTo(3.6, 9);
  });

  test('tones never turn over, however zones are pulled', () => {
    const curve = zoneCurve([
      { at: -6, by: 4 },
      { at: -3, by: -2 },
      { at: 0, by: 3 },
      { at: 1.5, by: -3 },
      { at: 2.4, by: 2 },
    ]);
    for (let s = -10; s < 4; s += 0.05) expect(curve(s + 0.05)).toBeGreaterThanOrEqual(curve(s) - 1e-9);
  });
});
