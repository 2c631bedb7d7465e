import { describe, expect, test } from '@jest/globals';
import { columns, environmentPicture, graded, GRADES } from '@/tests/knownGrade';
import { deltaE2000, labOf } from '../colour/deltaE';
import { type EncodedImage } from '../raster/encodedImage';
import { lightOfCodes } from '../raster/lightOfCodes';
import { applyMatch } from './applyMatch';
import { mapColour } from './matchMap';
import { checkMark, type Code, contradicting, type MatchMark, WHITE } from './matchMark';
import { samplesOf } from './samples';
import { mendByMarks, solveMarks } from './solveMarks';
import { solveMatch } from './solveMatch';

const [W, H] = [270, 180];

function difference(a: EncodedImage, b: EncodedImage): number {
  const [p, q] = [lightOfCodes(a), lightOfCodes(b)];
  const lab = (image: EncodedImage, light: (code: number) => number, i: number) =>
    labOf(light(image.data[i]), light(image.data[i + 1]), light(image.data[i + 2]));
  let [sum, n] = [0, 0];
  for (let i = 0; i < a.data.length; i += 21, n++) sum += deltaE2000(lab(a, p, i), lab(b, q, i));
  return sum / n;
}

/** The mean colour of a square of 5 × 5 pixels. */
const patch = (image: EncodedImage, x: number, y: number): Code => {
  const mean = (c: number): number => {
    let sum = 0;
    for (let v = 0; v < 5; v++)
      for (let u = 0; u < 5; u++) sum += image.data[3 * ((y + v) * image.width + x + u) + c];
    return sum / 25 / 255;
  };
  return [mean(0), mean(1), mean(2)];
};

/** Places spread over a picture, of which is said what they become. */
const spread = (own: EncodedImage, wanted: EncodedImage, across: number, down: number): MatchMark[] =>
  Array.from({ length: across * down }, (_, k) => {
    const x = Math.floor((((k % across) + 0.5) * (own.width - 6)) / across);
    const y = Math.floor(((Math.floor(k / across) + 0.5) * (own.height - 6)) / down);
    return { says: 'same', from: patch(own, x, y), to: patch(wanted, x, y) };
  });

describe('marks', () => {
  test.each(Object.keys(GRADES))('eight tell a change that was made to all of a picture: %s', (kind) => {
    const own = environmentPicture('lobby', W, H);
    const wanted = graded(own, GRADES[kind]);
    const before = difference(own, wanted);
    const after = difference(applyMatch(own, solveMarks(spread(own, wanted, 4, 2)), 255), wanted);
    // the bar of a finished JPEG is 1.9, of which its coding is about one
    expect(after).toBeLessThan(1.1);
    expect(after).toBeLessThan(0.4 * before);
  });

  test('mend a match of two halves that show different things', () => {
    const whole = environmentPicture('park', W, H);
    const [left, right] = [columns(whole, 0, W / 2), columns(whole, W / 2, W)];
    const wanted = graded(left, GRADES.warmer);
    const solved = solveMatch(left, graded(right, GRADES.warmer));
    const alone = difference(applyMatch(left, solved.map, 255), wanted);
    const marks = spread(left, wanted, 2, 2);
    const mended = mendByMarks(solved.map, samplesOf(left, 24_000), marks);
    expect(difference(applyMatch(left, mended, 255), wanted)).toBeLessThan(Math.min(1.2, 0.5 * alone));
    for (const mark of marks) expect(checkMark(mark, mended).off).toBeLessThan(1.5);
  });

  test('a white becomes white and a grey loses its colour and keeps its lightness', () => {
    const white: MatchMark = { says: 'white', from: [0.93, 0.86, 0.7] };
    const grey: MatchMark = { says: 'grey', from: [0.5, 0.46, 0.4] };
    const map = solveMarks([white, grey]);
    for (const v of mapColour(map, [0.93, 0.86, 0.7])) expect(v).toBeCloseTo(WHITE, 1);
    const [r, g, b] = mapColour(map, [0.5, 0.46, 0.4]);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(0.01);
    expect(checkMark(grey, map).off).toBeLessThan(1);
    expect(checkMark(grey, undefined)).toMatchObject({ now: grey.from });
    expect(checkMark(grey, undefined).off).toBeGreaterThan(5);
  });

  test('what is right as it is stays while something else is pushed', () => {
    const skin: Code = [0.78, 0.6, 0.5];
    const pushed: MatchMark = { says: 'same', from: [0.3, 0.35, 0.5], to: [0.3, 0.35, 0.36] };
    const alone = solveMarks([pushed]);
    const held: MatchMark = { says: 'keep', from: skin };
    const both = solveMarks([pushed, held]);
    expect(checkMark(held, both).off).toBeLessThan(0.5 * checkMark(held, alone).off);
    expect(checkMark(pushed, both).off).toBeLessThan(2);
  });

  test('marks that contradict each other are each told how far they are off', () => {
    const from: Code = [0.5, 0.5, 0.5];
    const marks: MatchMark[] = [
      { says: 'same', from, to: [0.8, 0.8, 0.8] },
      { says: 'same', from, to: [0.2, 0.2, 0.2] },
    ];
    const map = solveMarks(marks);
    for (const mark of marks) expect(checkMark(mark, map).off).toBeGreaterThan(10);
  });

  test('one that is off three times as far as the middle one contradicts the others; of two neither is told', () => {
    expect(contradicting([0.5, 0.6, 7, 0.8])).toEqual([false, false, true, false]);
    expect(contradicting([0.1, 0.1, 1])).toEqual([false, false, false]);
    expect(contradicting([4, 9, 5])).toEqual([false, false, false]);
    expect(contradicting([0, 9])).toEqual([false, false]);
    expect(contradicting([])).toEqual([]);
  });

  test('whatever they ask, tones keep their order', () => {
    const map = solveMarks([
      { says: 'same', from: [0.3, 0.3, 0.3], to: [0.9, 0.9, 0.9] },
      { says: 'same', from: [0.7, 0.7, 0.7], to: [0.1, 0.1, 0.1] },
    ]);
    for (let i = 0; i < 100; i++) {
      const [a, b] = [i, i + 1].map((k) => mapColour(map, [k / 100, k / 100, k / 100]));
      a.forEach((v, c) => expect(b[c]).toBeGreaterThanOrEqual(v));
    }
  });
});
