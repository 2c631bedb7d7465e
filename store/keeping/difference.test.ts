import { describe, expect, test } from '@jest/globals';
import { randomSource } from '@/core/raster/random';
import { exposed } from '@/tests/exposed';
import { sampleProject } from '@/tests/sampleProject';
import { rename } from '../edits/geometry';
import { record, startHistory, undo } from '../history';
import { difference, differing } from './difference';

/** A random plain value, of the shapes that a project has. */
function anything(random: () => number, depth = 0): unknown {
  const kind = Math.floor(random() * (depth > 3 ? 3 : 5));
  if (kind === 0) return Math.round(random() * 9);
  if (kind === 1) return ['mill', 'reed', 'tide'][Math.floor(random() * 3)];
  if (kind === 2) return random() < 0.5 ? null : random() < 0.5;
  const n = Math.floor(random() * 5);
  const parts = Array.from({ length: n }, () => anything(random, depth + 1));
  return kind === 3 ? parts : Object.fromEntries(parts.map((p, i) => ['abcdef'[i], p]));
}

describe('what became of a value', () => {
  test('two thousand random pairs: the old one and the difference give the new one', () => {
    const random = randomSource(11);
    for (let k = 0; k < 2000; k++) {
      const [before, after] = [anything(random), anything(random)];
      const change = difference(before, after);
      if (change)
        expect(differing(before, JSON.parse(JSON.stringify(change)) as typeof change)).toEqual(after);
      else expect(after).toEqual(before);
    }
  });

  test('lists that lose at the front and grow at the end, or grow at the front, are told by what moved', () => {
    const [a, b, c, d] = [{ n: 1 }, { n: 2 }, { n: 3 }, { n: 4 }];
    expect(difference([a, b, c], [b, c, d])).toEqual({ head: [], from: 1, count: 2, items: [], tail: [d] });
    expect(difference([b, c], [a, b, c])).toEqual({ head: [a], from: 0, count: 2, items: [], tail: [] });
    expect(difference([a, b], [])).toEqual({ head: [], from: 0, count: 0, items: [], tail: [] });
    expect(difference([a, b], [a, b])).toBeUndefined();
  });

  test('an edit of a large project is told in few words, and taking it back too', () => {
    const start = startHistory(sampleProject());
    const named = record(start, 'Named it A', rename('A'));
    const brighter = record(named, 'Exposure', exposed(1));
    const change = difference(named, brighter);
    if (!change) throw new Error('nothing changed');
    expect(differing(named, change)).toEqual(brighter);
    expect(JSON.stringify(change).length).toBeLessThan(600);
    const back = difference(brighter, undo(brighter));
    if (!back) throw new Error('nothing changed');
    expect(differing(brighter, back)).toEqual(undo(brighter));
  });

  test('a difference of another value is refused', () =>
    expect(() => differing([1], { head: [], from: 0, count: 3, items: [], tail: [] })).toThrow(
      'another value',
    ));
});
