import { expect, test } from '@jest/globals';
import { leftInWords, secondsLeft } from './secondsLeft';

const readings = (done: (second: number) => number, seconds: number) =>
  Array.from({ length: seconds + 1 }, (_, s) => ({ at: 1000 * s, done: done(s) }));

test('what is left of a step that goes on evenly', () => {
  expect(secondsLeft(readings((s) => s / 60, 20))).toBeCloseTo(40, 6);
  expect(secondsLeft([])).toBeUndefined();
  // too early to tell
  expect(secondsLeft(readings((s) => s / 60, 3))).toBeUndefined();
  expect(secondsLeft(readings(() => 0.5, 20))).toBeUndefined();
});

test('a quick beginning does not promise a quick end, nor a slow one a slow end', () => {
  // a tenth at once, then 1 % a second
  expect(secondsLeft(readings((s) => 0.1 + 0.01 * s, 30))).toBeCloseTo(60, 6);
  // three times as slow for the first ten seconds: within a third from the thirtieth on
  const slow = (s: number): number => (s < 10 ? 0.005 * s : 0.05 + 0.015 * (s - 10));
  const left = secondsLeft(readings(slow, 30)) ?? 0;
  expect(Math.abs(left / ((1 - slow(30)) / 0.015) - 1)).toBeLessThan(1 / 3);
});

test('is said in steps that can be read', () => {
  expect([undefined, 2, 7, 31, 58, 89, 200].map(leftInWords)).toEqual([
    '',
    '',
    'about 5 s left',
    'about 30 s left',
    'about a minute left',
    'about a minute left',
    'about 3 min left',
  ]);
});
