import { describe, expect, test } from '@jest/globals';
import { encodedGain } from '@/core/raster/encodedGain';
import { flat, paint, waves } from '@/tests/paint';
import { bracketOf, widestSpacing } from './bracketOf';
import { clippedShares } from './clippedShares';
import { exposureTimeText, exposureValue, stopsBetween } from './exposureValue';
import { frameFindings } from './frameFindings';
import { measureStops } from './measureStops';
import { stopsOfSet } from './stopsOfSet';
import { measuredFrame } from '@/tests/sampleScene';

describe('exposure value', () => {
  // ISO 2720 / EXIF 2.32 annex C (APEX): EV = Av + Tv at ISO 100; nominal values round to whole numbers
  test.each([
    [16, 1 / 125, 100, 15],
    [1, 1, 100, 0],
    [1.4, 1, 100, 1],
    [8, 1 / 60, 100, 12],
    [2.8, 1 / 30, 100, 8],
    [16, 1 / 125, 400, 13],
    [5.6, 8, 100, 2],
  ])('f/%f at %f s, ISO %i is EV %i', (aperture, seconds, iso, ev) =>
    expect(Math.round(exposureValue({ aperture, seconds, iso }) ?? NaN)).toBe(ev),
  );

  test('the exact value is log2(N²/t)', () =>
    expect(exposureValue({ aperture: 4, seconds: 1 / 64, iso: 100 })).toBeCloseTo(10, 9));

  test.each([
    {},
    { seconds: 1 / 60 },
    { seconds: 0, aperture: 4, iso: 100 },
    { seconds: 1, aperture: -1, iso: 100 },
  ])('is unknown for %j', (facts) => expect(exposureValue(facts)).toBeUndefined());

  test('four times the time is two stops brighter', () => {
    const shared = { aperture: 8, iso: 100 };
    expect(stopsBetween({ seconds: 1 / 15, ...shared }, { seconds: 1 / 60, ...shared })).toBeCloseTo(2, 9);
  });

  test('an aperture that neither file knows counts as equal, one that a single file knows does not', () => {
    expect(stopsBetween({ seconds: 2 }, { seconds: 1 })).toBeCloseTo(1, 9);
    expect(stopsBetween({ seconds: 2, aperture: 8 }, { seconds: 1 })).toBeUndefined();
  });

  test('times read as photographers write them', () =>
    expect([1 / 960, 1 / 60, 0.25, 0.6, 8, 30].map(exposureTimeText)).toEqual([
      '1/960',
      '1/60',
      '1/4',
      '0.6 s',
      '8 s',
      '30 s',
    ]));
});

const texture = waves(21);
const scene = (stops: number, dx = 0) => {
  const brighten = encodedGain(stops);
  return paint(400, 300, (x, y) => {
    const v = brighten(0.05 + 0.6 * texture(x + dx, y));
    return [v, v, v];
  });
};

describe('measured exposure', () => {
  test.each([-2, -1, 0.5, 1.5])('finds %f EV from pixels that neither frame clips', (stops) =>
    expect(measureStops(scene(0), scene(stops))).toBeCloseTo(stops, 1),
  );

  test('a little shake does not matter', () => expect(measureStops(scene(0), scene(1, 9))).toBeCloseTo(1, 1));

  test('says nothing of frames that share no tones', () =>
    expect(measureStops(flat(400, 300, 0.02), flat(400, 300, 1))).toBeUndefined());

  test('a set without EXIF is measured from neighbour to neighbour, and says so', () => {
    const frames = [0, 2, -2, 4].map((stops) => ({ image: scene(stops - 1), facts: {} }));
    const found = stopsOfSet(frames);
    expect(found.map((f) => f.source)).toEqual(['measured', 'measured', 'measured', 'measured']);
    [0, 2, -2, 4].forEach((stops, i) => expect(Math.abs(found[i].stops - stops)).toBeLessThan(0.25));
  });

  test('a set with EXIF uses it; one frame without makes the whole set measured', () => {
    const facts = (seconds: number) => ({ seconds, aperture: 8, iso: 100 });
    const named = stopsOfSet([
      { image: scene(0), facts: facts(0.25) },
      { image: scene(1), facts: facts(1) },
    ]);
    expect(named[1]).toEqual({ stops: 2, source: 'exif' });
    const mixed = stopsOfSet([
      { image: scene(0), facts: facts(0.25) },
      { image: scene(1), facts: {} },
    ]);
    expect(mixed.map((f) => f.source)).toEqual(['measured', 'measured']);
    expect(mixed[1].stops).toBeCloseTo(1, 1);
  });
});

describe('clipping', () => {
  test('counts burnt and empty pixels and finds their place', () => {
    const image = paint(240, 120, (x, y) =>
      x >= 220 && y < 20 ? [1, 0.5, 0.5] : x < 20 && y >= 100 ? [0, 0, 0] : [0.5, 0.5, 0.5],
    );
    const { light, dark, lightAt, darkAt } = clippedShares(image);
    expect(light).toBeCloseTo(400 / 28800, 9);
    expect(dark).toBeCloseTo(400 / 28800, 9);
    expect(lightAt).toEqual({ x: 220, y: 0, width: 20, height: 20 });
    expect(darkAt).toEqual({ x: 0, y: 100, width: 20, height: 20 });
  });

  test('one channel at white is lost, one channel at black is not', () => {
    expect(clippedShares(paint(32, 32, () => [1, 0.2, 0.2])).light).toBe(1);
    expect(clippedShares(paint(32, 32, () => [0.5, 0, 0])).dark).toBe(0);
  });

  test('16-bit pictures are judged on the same scale', () => {
    expect(clippedShares(flat(32, 32, 1, 65535)).light).toBe(1);
    expect(clippedShares(flat(32, 32, 0.98, 65535)).light).toBe(0);
  });
});

const member = (stops: number, light: number, dark: number, width = 600) => ({
  width,
  height: 400,
  stops,
  clipped: { light, dark },
});

describe('the proposed set', () => {
  test('is ordered by exposure and takes the frame that clips least', () => {
    const set = bracketOf([member(2, 0.3, 0), member(-2, 0, 0.4), member(0, 0.02, 0.01)]);
    expect(set).toMatchObject({ order: [1, 2, 0], reference: 2, strangers: [] });
    expect(set.why).toContain('span 4.0 EV');
  });

  test('prefers the middle when all are equally whole', () =>
    expect(bracketOf([member(-2, 0, 0), member(0, 0, 0), member(2, 0, 0)]).reference).toBe(1));

  test('the reference is one that most others can be fitted to, and not one at the end', () => {
    // a dark sunset, −4 … +4 EV: the second loses least, but the lightest lies 6 EV from it
    const dusk = [-4, -2, 0, 2, 4].map((ev, i) =>
      member(ev, [0, 0, 0.01, 0.04, 0.2][i], [0.5, 0.02, 0.05, 0, 0][i]),
    );
    expect(bracketOf(dusk)).toMatchObject({
      reference: 2,
      why: expect.stringContaining('all of the others'),
    });
    // the darkest loses nothing, and is at the end
    expect(bracketOf([member(0, 0, 0), member(2, 0.2, 0), member(4, 0.6, 0)]).reference).toBe(1);
    // of two exposures either is at an end
    expect(bracketOf([member(0, 0, 0), member(2, 0.2, 0)]).reference).toBe(0);
    // over 4 EV on either side no frame reaches all
    const wide = [-8, -3, 0, 3, 8].map((ev) => member(ev, 0.1, 0.1));
    expect(bracketOf(wide)).toMatchObject({ reference: 2, why: expect.stringContaining('2 of the others') });
  });

  test('leaves frames of another size out', () =>
    expect(bracketOf([member(0, 0, 0), member(1, 0, 0, 500), member(2, 0, 0)])).toMatchObject({
      order: [0, 2],
      strangers: [1],
    }));

  test('says when the exposures are all the same', () =>
    expect(bracketOf([member(0, 0, 0), member(0.1, 0, 0)]).why).toContain('same exposure'));

  test('a single frame is called one', () =>
    expect(bracketOf([member(0, 0, 0)])).toMatchObject({
      reference: 0,
      why: 'One frame: it is used as it is.',
    }));

  test('spacing is the widest step', () => {
    expect(widestSpacing([0, 4, 1])).toBe(3);
    expect(widestSpacing([7])).toBe(0);
  });
});

describe('findings of the frames', () => {
  test('burnt light is judged in the darkest frame, empty dark in the lightest', () => {
    const at = { x: 1, y: 2, width: 3, height: 4 };
    const findings = frameFindings([
      measuredFrame('a', { stops: 2, clipped: { light: 0.5, dark: 0.06, darkAt: at } }),
      measuredFrame('b', { stops: -2, clipped: { light: 0.01, dark: 0.9, lightAt: at } }),
    ]);
    expect(findings.find((f) => f.id === 'frames.burnt')).toMatchObject({
      value: 1,
      verdict: 'watch',
      where: { ...at, frame: 1 },
    });
    expect(findings.find((f) => f.id === 'frames.black')).toMatchObject({
      value: 6,
      verdict: 'fail',
      where: { ...at, frame: 0 },
    });
    expect(findings.find((f) => f.id === 'frames.spacing')).toMatchObject({ value: 4, verdict: 'watch' });
  });

  test('counts files that could not be read', () =>
    expect(frameFindings([], 2)).toMatchObject([{ id: 'frames.unreadable', value: 2, verdict: 'watch' }]));
});
