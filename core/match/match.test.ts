import { describe, expect, test } from '@jest/globals';
import { columns, environmentPicture, graded, GRADES } from '@/tests/knownGrade';
import { deltaE2000, labOf } from '../colour/deltaE';
import { type EncodedImage } from '../raster/encodedImage';
import { lightOfCodes } from '../raster/lightOfCodes';
import { applyMatch } from './applyMatch';
import { halfwayShare } from './halfway';
import { mapColour, plainMap, shareOfStrength, withStrength } from './matchMap';
import { matchVerdict } from './matchVerdicts';
import { matchReport } from './matchReport';
import { risingCoefficients } from './risingCoefficients';
import { samplesOf } from './samples';
import { solveMatch } from './solveMatch';
import { solveTogether } from './solveTogether';
import { solveSame } from './solveMap';

const [W, H] = [270, 180];
const PICTURES = ['park', 'lobby', 'sunset'];

/** Mean CIEDE2000 between two pictures, every seventh pixel. */
function difference(a: EncodedImage, b: EncodedImage): number {
  const [p, q] = [lightOfCodes(a), lightOfCodes(b)];
  const lab = (image: EncodedImage, light: (code: number) => number, i: number) =>
    labOf(light(image.data[i]), light(image.data[i + 1]), light(image.data[i + 2]));
  let [sum, n] = [0, 0];
  for (let i = 0; i < a.data.length; i += 21, n++) sum += deltaE2000(lab(a, p, i), lab(b, q, i));
  return sum / n;
}

/** Means and deviations of L*a*b* taken over: the plainest way there is (Reinhard et al. 2001, in CIE L*a*b*). */
function byMoments(target: EncodedImage, reference: EncodedImage): (lab: readonly number[]) => number[] {
  const labs = (image: EncodedImage) => {
    const light = lightOfCodes(image);
    return Array.from({ length: Math.floor(image.data.length / 21) }, (_, k) =>
      labOf(...([0, 1, 2].map((c) => light(image.data[21 * k + c])) as [number, number, number])),
    );
  };
  const moments = (all: readonly (readonly number[])[]) =>
    [0, 1, 2].map((c) => {
      const mean = all.reduce((sum, v) => sum + v[c], 0) / all.length;
      return { mean, spread: Math.sqrt(all.reduce((sum, v) => sum + (v[c] - mean) ** 2, 0) / all.length) };
    });
  const [p, q] = [moments(labs(target)), moments(labs(reference))];
  return (lab) => lab.map((v, c) => q[c].mean + ((v - p[c].mean) * q[c].spread) / p[c].spread);
}

function differenceByMoments(target: EncodedImage, reference: EncodedImage): number {
  const move = byMoments(target, reference);
  const [p, q] = [lightOfCodes(target), lightOfCodes(reference)];
  let [sum, n] = [0, 0];
  for (let i = 0; i < target.data.length; i += 21, n++) {
    const at = (image: EncodedImage, light: (code: number) => number) =>
      labOf(light(image.data[i]), light(image.data[i + 1]), light(image.data[i + 2]));
    const [L, a, b] = move(at(target, p));
    sum += deltaE2000([L, a, b], at(reference, q));
  }
  return sum / n;
}

describe('the map', () => {
  test('of nothing changes nothing, and half of a change lies half way', () => {
    const plain = plainMap(13);
    for (const v of [0, 0.02, 0.3, 0.77, 1])
      mapColour(plain, [v, 1 - v, 0.5]).forEach((out, c) => expect(out).toBeCloseTo([v, 1 - v, 0.5][c], 6));
    const picture = environmentPicture('park', 120, 80);
    const { map } = solveMatch(picture, graded(picture, GRADES.warmer));
    const whole = mapColour(map, [0.5, 0.5, 0.5]);
    const half = mapColour(withStrength(map, 0.5), [0.5, 0.5, 0.5]);
    half.forEach((v, c) => expect(Math.abs(v - (0.5 + whole[c]) / 2)).toBeLessThan(0.01));
  });

  test('rising coefficients are the nearest that rise (a worked case of pooling)', () => {
    expect([...risingCoefficients(Float64Array.of(1, 3, 2, 4), 0)]).toEqual([1, 2.5, 2.5, 4]);
    expect([...risingCoefficients(Float64Array.of(3, 2, 1), 0)]).toEqual([2, 2, 2]);
    const rising = risingCoefficients(Float64Array.of(0, 0, 0), 0.5);
    expect(rising[2] - rising[0]).toBeCloseTo(1, 12);
  });
});

describe.each(PICTURES.slice(0, 2))('%s, changed in known ways', (name) => {
  const picture = environmentPicture(name, W, H);

  test.each(Object.keys(GRADES))(
    '%s is found pixel on pixel, better than by moments, and stays in order',
    (kind) => {
      const wanted = graded(picture, GRADES[kind]);
      const solved = solveMatch(picture, wanted);
      expect(solved.how).toBe('paired');
      const after = difference(applyMatch(picture, solved.map, 65535), wanted);
      expect(after).toBeLessThan(difference(picture, wanted) / 3);
      // chroma scaled on codes is the one kind that the map cannot hold
      expect(after).toBeLessThan(kind === 'more chroma' ? 1.2 : 0.6);
      expect(after).toBeLessThan(differenceByMoments(picture, wanted));
      const { risk } = matchReport(solved, solved.map);
      expect(risk.flattest).toBeGreaterThanOrEqual(0);
      const ramp = Array.from({ length: 4096 }, (_, i) =>
        mapColour(solved.map, [i / 4095, i / 4095, i / 4095]),
      );
      const steps = ramp.slice(1).flatMap((now, i) => now.map((v, c) => (v - ramp[i][c]) * 4095));
      expect(steps.filter((step) => step < -1e-6)).toEqual([]);
      const steepest = steps.reduce((most, step) => Math.max(most, step), 0);
      expect(steepest).toBeLessThan(2.5);
    },
  );

  test('the same things in another place are matched by their colours', () => {
    const wanted = graded(picture, GRADES.warmer);
    const map = solveSame(samplesOf(picture, 6000), samplesOf(wanted, 7000));
    const after = difference(applyMatch(picture, map, 65535), wanted);
    expect(after).toBeLessThan(difference(picture, wanted) / 3);
  });
});

test('a line of a score is judged, beside other things never as a fault', () => {
  const score = {
    deltaE: 12,
    darks: -0.1,
    middles: 0.6,
    lights: -1.4,
    chroma: 1.1,
    cast: { hue: 0, strength: 0.02 },
  };
  const judged = (paired: boolean) =>
    (['deltaE', 'darks', 'middles', 'lights', 'cast', 'chroma'] as const).map((line) =>
      matchVerdict(line, score, paired),
    );
  expect(judged(true)).toEqual(['fail', 'pass', 'watch', 'fail', 'watch', 'pass']);
  expect(judged(false)).toEqual(['watch', 'pass', 'watch', 'watch', 'watch', 'pass']);
});

describe('a match to several pictures', () => {
  const picture = environmentPicture('park', W, H);
  const [warm, dark] = [GRADES.warmer, GRADES.darker].map((grade) => graded(picture, grade));
  const made = (weights: readonly [number, number]) => {
    const solved = solveTogether(picture, [
      { picture: warm, weight: weights[0] },
      { picture: dark, weight: weights[1] },
    ]);
    return applyMatch(picture, solved.map, 65535);
  };

  test('lies between them, nearer to the one that counts more', () => {
    const [even, more] = [made([1, 1]), made([3, 1])];
    const apart = difference(made([1, 0]), made([0, 1]));
    expect(difference(even, warm)).toBeLessThan(0.75 * apart);
    expect(difference(even, dark)).toBeLessThan(0.75 * apart);
    expect(difference(more, warm)).toBeLessThan(0.7 * difference(even, warm));
  });

  test('of which one does not count is the match to the other', () => {
    const alone = solveMatch(picture, warm).map;
    expect(difference(made([0.5, 0]), applyMatch(picture, alone, 65535))).toBe(0);
    expect(() => made([0, 0])).toThrow('a weight');
  });
});

test('half of a match lies half way, whatever was changed', () => {
  const picture = environmentPicture('city', W, H);
  const changes = { ...GRADES, plain: (code: readonly [number, number, number]) => [...code] as typeof code };
  for (const [kind, grade] of Object.entries(changes)) {
    const { map, target } = solveMatch(
      picture,
      graded(picture, (code) => [...grade(code)]),
    );
    const halfway = halfwayShare(map, target);
    if (kind === 'plain') {
      expect(halfway).toBe(0.5);
      continue;
    }
    const at = (strength: number) =>
      applyMatch(picture, withStrength(map, shareOfStrength(strength, halfway)), 65535);
    const share = difference(picture, at(0.5)) / difference(picture, at(1));
    expect(share).toBeGreaterThan(0.48);
    expect(share).toBeLessThan(0.52);
  }
});

test('one half to the other, graded: nearer than untouched on average, never much worse, and nearer still where someone knows the place', () => {
  const [before, after, known] = [0, 0, 0].map(() => [] as number[]);
  for (const name of PICTURES) {
    const picture = environmentPicture(name, W, H);
    const [left, right] = [columns(picture, 0, W / 2), columns(picture, W / 2, W)];
    for (const kind of ['darker', 'warmer']) {
      const reference = graded(right, GRADES[kind]);
      const solved = solveMatch(left, reference);
      expect(solved.how).toBe('alike');
      const wanted = graded(left, GRADES[kind]);
      before.push(difference(left, wanted));
      after.push(difference(applyMatch(left, solved.map, 65535), wanted));
      const place = solveMatch(left, reference, { relation: 'place' });
      known.push(difference(applyMatch(left, place.map, 65535), wanted));
      expect(matchReport(solved, solved.map).why).toContain('different things');
    }
  }
  const mean = (v: readonly number[]): number => v.reduce((sum, x) => sum + x, 0) / v.length;
  expect(mean(after)).toBeLessThan(mean(before));
  expect(mean(known)).toBeLessThan(mean(after));
  after.forEach((v, i) => expect(v).toBeLessThan(before[i] + 1));
}, 120_000);

test('pictures of other things keep most of their own light, however far apart they are; a plate takes on what lies about it', () => {
  const [bright, dark] = [
    environmentPicture('park', W, H),
    graded(environmentPicture('lobby', W, H), GRADES.darker),
  ];
  const middle = (relation: 'other' | 'plate') => {
    const [r, g, b] = mapColour(solveMatch(dark, bright, { relation }).map, [0.4, 0.4, 0.4]);
    return (r + g + b) / 3;
  };
  expect(Math.abs(middle('plate') - 0.4)).toBeGreaterThan(2 * Math.abs(middle('other') - 0.4));
});

test('the same pictures give the same map', () => {
  const picture = environmentPicture('park', 200, 140);
  const wanted = graded(picture, GRADES.warmer);
  expect(solveMatch(picture, wanted).map).toEqual(solveMatch(picture, wanted).map);
});
