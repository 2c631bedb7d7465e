import { describe, expect, test } from '@jest/globals';
import { BLEND_MODES } from '@/core/layers/blendMode';
import { evaluate, type World } from '../evaluate';
import { buildGraph } from '../graph';
import { versionOf } from '../operators';
import { type At, type Value } from '../tile';
import { tileCache } from '../tileCache';
import { lightOf } from '../wanted';
import { layerStack } from './layerStack';

const SIDE = 120;
const at: At = { level: 0, area: { x: 0, y: 0, width: SIDE, height: SIDE }, kernel: 'lanczos' };
const lines = { longEdge: SIDE, x: 0.5, y: 0.5, across: 0.4, down: 0.3, turn: 20, soft: 0.7 };

/** Every blend mode over each other, every third where an ellipse says, one in linear light. @param open whether the lowest is there in part only */
function stacked(open: boolean) {
  const g = buildGraph(versionOf);
  const gradient = (k: number): string =>
    g.add('fillGradient', {
      ...{ from: [0.9 - 0.05 * k, 0.1 * (k % 7), 0.4], to: [0.05 * k, 0.8, 1 - 0.07 * k] },
      ...{ x0: 0.1 * (k % 3), y0: 0, x1: 1, y1: 0.1 * k },
    });
  const ellipse = g.add('fillEllipse', lines);
  const lay = (mode: string, opacity: number, linear: boolean, inputs: string[]): string =>
    g.add('blendLayers', { mode, opacity, linear }, inputs);
  let below = open ? lay('normal', 0.8, false, ['', gradient(20), ellipse]) : gradient(20);
  const layers: string[] = [];
  const given: string[] = [];
  // every fourth is changed, wholly or in part, by what looks at one pixel at a time
  const changed = (k: number): string => {
    if (k % 4 !== 1) return gradient(k);
    const brighter = g.add('expose', { stops: 0.1 * k }, [gradient(k)]);
    const paler = g.add('saturate', { factor: 0.6 }, [brighter]);
    return k % 8 === 1 ? paler : g.add('mix', { amount: 0.5 }, [brighter, paler, ellipse]);
  };
  BLEND_MODES.forEach((mode, k) => {
    const layer = changed(k);
    given.push(layer);
    below = lay(mode, 0.4 + 0.03 * k, k === 9, [below, layer, ...(k % 3 === 0 ? [ellipse] : [])]);
    layers.push(below);
  });
  return { g, top: below, layers, given };
}

const worldOf = (keeps: World['keeps']): World => ({
  made: (): Value | undefined => undefined,
  cache: tileCache(1e9),
  keeps,
});

describe.each([
  ['over an opaque picture', false],
  ['over one that is partly there', true],
])('a stack of layers %s', (_, open) => {
  const { g, top, layers, given } = stacked(open);

  test('is the same, to the bit, laid in one pass, in several, and one layer after the other', () => {
    const bits = (keeps: World['keeps']): Uint32Array[] => {
      const { planes, alpha } = lightOf(evaluate(g.graph, top, at, worldOf(keeps)), 'a test');
      return [...planes, ...(alpha ? [alpha] : [])].map((p) => new Uint32Array(p.buffer));
    };
    const whole = bits(() => false);
    expect(whole).toHaveLength(open ? 4 : 3);
    // what is kept ends a pass
    const apart = bits((hash) => layers.includes(hash));
    const some = bits((hash) => hash === layers[4] || hash === layers[11]);
    const unchained = bits((hash) => given.includes(hash));
    for (const other of [apart, some, unchained])
      other.forEach((plane, c) => expect(plane.filter((v, i) => v !== whole[c][i])).toHaveLength(0));
  });

  test('ends at another light, at what is kept, and at what others ask for', () => {
    const last = (hash: string) => {
      const node = g.graph.get(hash);
      if (!node) throw new Error('no such layer');
      return node;
    };
    const count = (hash: string, ends: (hash: string) => boolean): number | undefined =>
      layerStack(g.graph, last(hash), ends)?.layers.length;
    expect(count(top, () => false)).toBe(BLEND_MODES.length - 10);
    expect(count(layers[9], () => false)).toBe(1);
    expect(count(layers[8], () => false)).toBe(9);
    expect(count(layers[8], (hash) => hash === layers[5])).toBe(3);
    expect(layerStack(g.graph, last(g.add('fillEllipse', lines)), () => false)).toBeUndefined();
  });
});
