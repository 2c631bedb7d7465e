import { describe, expect, test } from '@jest/globals';
import { regionPlane } from '@/tests/regionPlane';
import { EVERYWHERE, type Region, type RegionPart } from './region';
import { regionBounds } from './regionBounds';

const [W, H] = [240, 160];

const region = (parts: readonly Partial<RegionPart>[], change: Partial<Region> = {}): Region => ({
  ...{ ...EVERYWHERE, id: 'r', name: '' },
  parts: parts.map((p) => ({ how: 'add', turned: false, on: true, ...p }) as RegionPart),
  ...change,
});

const stroke = (action: 'reveal' | 'hide', x: number, y: number, size = 0.1): RegionPart['part'] => ({
  kind: 'strokes',
  settings: { strokes: [{ action, size, softness: 0.5, flow: 1, points: [[x, y, 1]] }] },
});

const ellipse: RegionPart['part'] = {
  kind: 'ellipse',
  settings: { x: 0.7, y: 0.3, across: 0.15, down: 0.05, turn: 30, soft: 0.2 },
};

const polygon: RegionPart['part'] = {
  kind: 'polygon',
  settings: {
    corners: [
      [0.1, 0.4],
      [0.3, 0.35],
      [0.2, 0.5],
    ],
  },
};

const tone: RegionPart['part'] = { kind: 'tone', settings: { from: -4, to: 0, soft: 0.5 } };

const bounds = (of: Region) => regionBounds(of, W, () => undefined);

describe('the bounds of a region', () => {
  test.each([
    ['a stroke', region([{ part: stroke('reveal', 0.4, 0.3) }])],
    ['an ellipse', region([{ part: ellipse }])],
    ['an outline', region([{ part: polygon }])],
    ['several', region([{ part: polygon }, { part: ellipse }, { part: stroke('hide', 0.9, 0.6) }])],
    ['what is kept to another', region([{ part: polygon }, { how: 'keep', part: ellipse }])],
    ['grown', region([{ part: stroke('reveal', 0.4, 0.3) }], { grow: 0.03 })],
    ['feathered', region([{ part: polygon }], { feather: 0.02 })],
  ])('%s: nothing of its mask lies outside', (_, of) => {
    const box = bounds(of);
    if (!box) throw new Error('it has bounds');
    const outside = [...regionPlane(of, W, H)].filter((v, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      return v > 1 / 255 && (x < box.x || y < box.y || x >= box.x + box.width || y >= box.y + box.height);
    });
    expect(outside).toEqual([]);
    expect(box.width * box.height).toBeLessThan(0.75 * W * H);
  });

  test.each([
    ['a range', region([{ part: tone }])],
    ['one with a range added', region([{ part: polygon }, { part: tone }])],
    ['one turned inside out', region([{ part: polygon }], { invert: true })],
    ['the outside of a part', region([{ part: polygon, turned: true }])],
    ['all but a part', region([{ how: 'remove', part: polygon }])],
    ['nothing yet', region([])],
    ['a part that is switched off', region([{ part: polygon, on: false }])],
  ])('%s: it may lie anywhere', (_, of) => {
    expect(bounds(of)).toBeUndefined();
  });

  test('a named region has those of its parts', () => {
    const named = region([{ part: polygon }], { id: 'n' });
    const of = region([{ part: { kind: 'named', settings: { region: 'n' } } }]);
    expect(regionBounds(of, W, (id) => (id === 'n' ? named : undefined))).toEqual(bounds(named));
    // one that is made of itself
    const own = region([{ part: { kind: 'named', settings: { region: 'r' } } }]);
    expect(regionBounds(own, W, () => own)).toBeUndefined();
  });
});
