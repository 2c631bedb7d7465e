import { describe, expect, test } from '@jest/globals';
import { produce } from 'immer';
import { emptyImage } from '@/core/raster/encodedImage';
import { regionPlane } from '@/tests/regionPlane';
import { sampleProject } from '@/tests/sampleProject';
import { type MergedState } from './benchState';
import { momentLayers } from './momentLayers';

const W = 600;
const H = 400;

/** A merge in which the lightest frame makes the right half. */
function mergedHalf(): MergedState {
  const n = (W / 2) * (H / 2);
  const half = (right: boolean): Uint8Array =>
    Uint8Array.from({ length: n }, (_, i) => (i % (W / 2) >= W / 4 === right ? 255 : 0));
  return {
    key: 'm',
    scene: {
      levels: [emptyImage(W, H, 255)],
      frames: ['dark', 'mid', 'light'],
      shares: [new Uint8Array(n), half(false), half(true)],
      noise: 0,
    },
    findings: [],
    movers: [],
  };
}

describe('moments as layers', () => {
  const made = produce(sampleProject({ kind: 'moments' }), momentLayers('set', mergedHalf()));

  test('the reference is the ground; a moment that makes nothing gets no layer', () =>
    expect(made.layers.map((l) => l.id)).toEqual(['merge', 'moment-mid', 'moment-light']));

  test('the strokes reveal what the merge took, softly, and leave the rest', () => {
    const [where] = made.layers.slice(-1).map((l) => l.where);
    if (typeof where !== 'object') throw new Error('shown everywhere');
    const plane = regionPlane(where, W, H);
    const mean = (x0: number, x1: number): number => {
      let sum = 0;
      for (let y = 40; y < H - 40; y++) for (let x = x0; x < x1; x++) sum += plane[y * W + x];
      return sum / ((H - 80) * (x1 - x0));
    };
    expect(mean(340, 580)).toBeGreaterThan(0.9);
    expect(mean(20, 270)).toBeLessThan(0.02);
  });

  test('laying them out again replaces what was laid out before', () => {
    const again = produce(made, momentLayers('set', mergedHalf()));
    expect(again.layers).toHaveLength(3);
  });
});
