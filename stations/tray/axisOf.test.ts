import { describe, expect, test } from '@jest/globals';
import { type SetKind } from '@/core/capture/setKind';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Frame, type KeptPanorama, type SetScope } from '@/core/recipe/project';
import { baseOf, sampleFit, sampleFrame, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { axisOf } from './axisOf';

/** A set of a kind, with other frames than the sample's where they are given. */
function at(kind: SetKind, frames?: readonly Frame[], panorama?: KeptPanorama): SetScope {
  const project = sampleProject({ kind });
  if (!frames) return baseOf(project);
  const ids = frames.map((f) => f.id);
  const own = withSet({ ...project, frames }, { frames: ids, reference: ids[0] });
  return baseOf(withFits(own, Object.fromEntries(ids.map((id) => [id, sampleFit(0, 0)])), panorama));
}
const taken = (id: string, time: string) => sampleFrame(id, 0, { facts: { taken: `2026-10-03T${time}` } });

/** Turned to the right by so many degrees. */
function turned(degrees: number): Matrix3 {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [c, 0, -s, 0, 1, 0, s, 0, c];
}

describe('the axis of a tray', () => {
  test('a bracket lies on its stops, relative to the reference', () => {
    const scope = at('bracket');
    const axis = axisOf(scope, scope.frames, 0);
    expect(axis.values).toEqual([-2, 0, 2]);
    expect(axis.ticks.map((t) => t.text)).toEqual(['−2', '−1', '0 EV', '+1', '+2']);
    expect(axis.say(2)).toBe('+2.0 EV');
  });

  test('moments lie on the clock, with seconds only where they matter', () => {
    const evening = [taken('a', '18:20:00'), taken('b', '19:00:00'), taken('c', '19:30:00')];
    const axis = axisOf(at('moments', evening), evening, 0);
    expect(axis.ticks.map((t) => t.text)).toEqual(['18:20', '18:55', '19:30']);
    const burst = [taken('a', '18:20:00'), taken('b', '18:20:02')];
    expect(axisOf(at('swap', burst), burst, 0).say(axisOf(at('swap'), burst, 0).values[1])).toBe('18:20:02');
  });

  test('frames without a time, or of two nights, lie in their order', () => {
    const blind = [sampleFrame('a', 0), sampleFrame('b', 0)];
    expect(axisOf(at('stack', blind), blind, 0).name).toBe('order');
    const nights = [
      ...Array.from({ length: 4 }, (_, i) => taken(`a${i}`, `21:0${i}:00`)),
      sampleFrame('next', 0, { facts: { taken: '2026-10-05T21:00:00' } }),
    ];
    const axis = axisOf(at('stack', nights), nights, 0);
    expect(axis.values).toEqual([0, 1, 2, 3, 4]);
    expect(axis.say(4)).toBe('place 5');
  });

  test('a panorama lies on its angles; a stray stands in the middle', () => {
    const frames = ['a', 'b', 'c'].map((id) => sampleFrame(id, 0));
    const fit = {
      lens: { focalPx: 800, k1: 0, width: 600, height: 400 },
      rotations: [turned(-20), turned(20), null],
      pairs: [],
    };
    const scope = at('panorama', frames, { frames: ['a', 'b', 'c'], fit });
    const { name, values, ticks } = axisOf(scope, frames, 0);
    expect(name).toBe('turn');
    expect(Math.abs(values[0] - values[1])).toBeCloseTo(40, 3);
    expect(values[2]).toBeCloseTo((values[0] + values[1]) / 2, 6);
    expect(ticks.map((t) => t.at)).toEqual(
      [-20, -15, -10, -5, 0, 5, 10, 15, 20].filter((v) => ticks.some((t) => t.at === v)),
    );
    // nothing fitted yet: the order
    expect(axisOf(at('panorama', frames), frames, 0).name).toBe('order');
  });
});
