import { SET_KINDS } from '@/core/capture/setKind';
import { describe, expect, test } from '@jest/globals';
import { type FrameSet, type SetScope } from '@/core/recipe/project';
import { STATIONS, START } from '@/store/session';
import { baseOf, sampleFit, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { resizeCrop } from './finish/resizeCrop';
import { fitAdvice } from './fit/advice';
import { LOOK_NAMES, looksOf, viewsOf } from './looks';
import { meanShares } from './merge/shares';

const picture = { width: 600, height: 400 };
const crop = { x: 100, y: 100, width: 200, height: 100 };

describe('pulling a crop', () => {
  test('edges move alone, corners together, the whole keeps its size', () => {
    expect(resizeCrop(crop, { x: 1, y: 0 }, 50, 99, picture, 'free')).toEqual({ ...crop, width: 250 });
    expect(resizeCrop(crop, { x: -1, y: -1 }, 10, 20, picture, 'free')).toEqual({
      x: 110,
      y: 120,
      width: 190,
      height: 80,
    });
    expect(resizeCrop(crop, { x: 0, y: 0 }, 1000, -1000, picture, 'free')).toEqual({ ...crop, x: 400, y: 0 });
  });

  test('it stays inside the picture and never vanishes', () => {
    expect(resizeCrop(crop, { x: 1, y: 1 }, 9999, 9999, picture, 'free')).toEqual({
      x: 100,
      y: 100,
      width: 500,
      height: 300,
    });
    expect(resizeCrop(crop, { x: 1, y: 0 }, -9999, 0, picture, 'free').width).toBe(16);
  });

  test.each([1, 1.5, 2, 0.8])('ratio %f is kept by every handle, inside the picture', (ratio) => {
    for (const x of [-1, 0, 1] as const)
      for (const y of [-1, 0, 1] as const) {
        if (x === 0 && y === 0) continue;
        for (const [dx, dy] of [
          [40, 30],
          [-60, -20],
          [500, 500],
          [-500, -500],
        ]) {
          const r = resizeCrop(crop, { x, y }, dx, dy, picture, ratio);
          expect(Math.abs(r.width / r.height - ratio)).toBeLessThan(
            (1.5 * ratio) / Math.min(r.width, r.height) + 0.02,
          );
          expect(r.x).toBeGreaterThanOrEqual(0);
          expect(r.y).toBeGreaterThanOrEqual(0);
          expect(r.x + r.width).toBeLessThanOrEqual(600);
          expect(r.y + r.height).toBeLessThanOrEqual(400);
        }
      }
  });
});

describe('advice on the fit', () => {
  const withFit = (
    change: Parameters<typeof sampleFit>[2],
    motion: FrameSet['motion'] = 'auto',
  ): SetScope => {
    const project = withSet(sampleProject(), { motion });
    const fit = sampleFit(0, 0);
    return baseOf(withFits(project, { dark: sampleFit(1, 1, change), mid: fit, light: fit }));
  };

  test('all is well', () =>
    expect(fitAdvice(withFit({}))).toMatchObject({ text: expect.stringContaining('Nothing to do here') }));
  test('a frame that could not be fitted', () =>
    expect(fitAdvice(withFit({ fitted: false, why: 'it is blurred' }))).toMatchObject({
      text: expect.stringContaining('“dark.jpg” is left out of the merge: it is blurred.'),
      action: { kind: 'leaveOut' },
    }));
  test('a frame without a stated exposure that does not fit may be in other light', () => {
    const lost = (facts: { readonly seconds?: number }) => {
      const scope = withFit({ fitted: false, why: 'it is blurred' });
      // exposures may be taken from the pixels although the files state them
      const frames = scope.frames.map((f) => ({ ...f, facts, stopsSource: 'measured' as const }));
      return fitAdvice({ ...scope, frames });
    };
    expect(lost({})).toMatchObject({
      text: expect.stringContaining('make the set moments'),
      action: { orMoments: true },
    });
    expect(lost({ seconds: 0.01 })).toMatchObject({ action: { orMoments: false } });
    expect(lost({ seconds: 0.01 })?.text).not.toContain('moments');
  });
  test('frames that may not move as they did', () =>
    expect(fitAdvice(withFit({ residual: { typical: 1.2, worst: 2 } }, 'shift'))).toMatchObject({
      action: { kind: 'free' },
    }));
  test('something that moved', () =>
    expect(fitAdvice(withFit({ residual: { typical: 0.1, worst: 5 } }))?.text).toContain(
      'something moved there',
    ));
  test('a frame in other light is to be looked at by blinking', () =>
    expect(fitAdvice(withFit({ by: 'edges', bound: 0.54 }))?.text).toMatch(
      /“dark.jpg” .* good to 0.5 px.* Blink/,
    ));
  test('nothing before the fit is made', () =>
    expect(fitAdvice(baseOf({ ...sampleProject(), made: {} }))).toBeUndefined());
});

describe('looks', () => {
  const from = {
    ...{ session: START, reference: 'r', frame: 'f', compared: 'c', wipeAt: 50 },
    ...{ shown: { scene: undefined }, edit: undefined, sharpen: undefined, matched: undefined },
  };
  test('every look of every station has a name and a view', () => {
    for (const station of STATIONS)
      for (const look of SET_KINDS.flatMap((kind) => [
        ...looksOf(station, kind),
        ...looksOf(station, kind, true),
      ])) {
        expect(LOOK_NAMES[look]).toBeTruthy();
        expect(viewsOf(look, { ...from, station }).view.kind).toBeTruthy();
      }
  });
  test('fit compares frames, merge compares the reference with the result', () => {
    expect(viewsOf('wipe', { ...from, station: 'fit' })).toEqual({
      view: { kind: 'fitted', frame: 'r' },
      other: { kind: 'fitted', frame: 'c' },
      pairing: { kind: 'wipe', at: 50 },
    });
    expect(viewsOf('blink', { ...from, station: 'merge' }).other).toEqual({ kind: 'result' });
  });
  test('mean shares of a merge', () => {
    const scene = {
      levels: [],
      frames: ['a', 'b'],
      shares: [new Uint8Array(700).fill(51), new Uint8Array(700).fill(204)],
      noise: 0,
    };
    const shares = meanShares({ key: 'k', scene, findings: [], movers: [] });
    expect(shares.get('a')).toBeCloseTo(0.2, 6);
    expect(shares.get('b')).toBeCloseTo(0.8, 6);
    expect(meanShares(undefined).size).toBe(0);
  });
});
