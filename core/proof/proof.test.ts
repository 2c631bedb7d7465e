import { describe, expect, test } from '@jest/globals';
import { judge, verdictOf, worstFinding } from './finding';
import { type Limit, LIMITS } from './limits';
import { Problem, problemSentence } from './problem';

describe('findings', () => {
  test('a value is judged upwards or downwards as the table says', () => {
    expect([0.1, 0.3, 2].map((v) => verdictOf(v, { watch: 0.3, fail: 1 }))).toEqual([
      'pass',
      'watch',
      'fail',
    ]);
    expect([98, 92, 60].map((v) => verdictOf(v, { watch: 92, fail: 70 }))).toEqual(['pass', 'watch', 'fail']);
    expect(verdictOf(NaN, { watch: 1, fail: 2 })).toBe('fail');
  });

  test('carries the table’s sentence, or a more particular one', () => {
    expect(judge('fit.typical', 0.1).why).toBe(LIMITS['fit.typical'].fine);
    expect(judge('fit.typical', 0.9).why).toBe(LIMITS['fit.typical'].advice);
    expect(judge('fit.typical', 0.9, { why: 'Wind.' })).toMatchObject({
      why: 'Wind.',
      verdict: 'watch',
      unit: 'px',
      limit: 0.3,
    });
  });

  test('the worst is the most serious, the earliest of equals', () => {
    const list = [judge('fit.typical', 0.1), judge('fit.worst', 2), judge('fit.turn', 3)];
    expect(worstFinding(list)?.id).toBe('fit.worst');
    expect(worstFinding([])).toBeUndefined();
  });

  test.each(Object.entries(LIMITS) as [string, Limit][])(
    '%s is a whole entry: sentences, a source, two limits',
    (_, limit) => {
      for (const text of [limit.fine, limit.advice]) expect(text).toMatch(/^[A-Z].*\.$/s);
      expect(limit.source.length).toBeGreaterThan(5);
      expect(limit.watch).not.toBe(limit.fail);
    },
  );
});

describe('problems', () => {
  test('a problem’s own sentence is shown, anything else says what was being done', () => {
    expect(problemSentence(new Problem('“a.jpg” is empty.'), 'Reading')).toBe('“a.jpg” is empty.');
    expect(problemSentence(new TypeError('x is undefined'), 'Merging')).toMatch(
      /^Merging failed unexpectedly \(x is undefined\)/,
    );
    expect(problemSentence('lost', 'Saving')).toContain('lost');
  });
});
