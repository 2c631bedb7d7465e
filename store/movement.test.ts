import { describe, expect, test } from '@jest/globals';
import { exposed } from '@/tests/exposed';
import { sampleProject } from '@/tests/sampleProject';
import { type LiveStroke } from './benchState';
import { amend, type History, record, redo, startHistory, undo } from './history';
import { causeOf } from './movement';
import { START } from './session';

const state = (history: History) => ({ history, session: START });
const cause = (now: History, before: History) => causeOf(state(now), state(before));

const first = startHistory(sampleProject());
const slid = record(first, 'Exposure', exposed(0.1), 'slider 1');
const further = record(slid, 'Exposure', exposed(0.2), 'slider 1');

describe('what a change comes of', () => {
  test('steps of a slider are a movement, the first as the others; a change without a gesture is an act', () => {
    expect(cause(slid, first)).toBe('movement');
    expect(cause(further, slid)).toBe('movement');
    expect(cause(record(further, 'Exposure', exposed(1)), further)).toBe('act');
  });

  test('a step taken back or done again is an act, also where another movement comes to lie last', () => {
    const other = record(further, 'Exposure', exposed(0.5), 'slider 2');
    expect(cause(undo(other), other)).toBe('act');
    expect(cause(redo(undo(other)), undo(other))).toBe('act');
    expect(cause(undo(slid), slid)).toBe('act');
  });

  test('what is measured after a movement is none', () => {
    const measured = amend(further, (project) => ({ ...project, changed: '2026-10-03T19:00:00.000Z' }));
    expect(measured).not.toBe(further);
    expect(cause(measured, further)).toBe('other');
  });

  test('a stroke moves as long as it is drawn; another station is an act', () => {
    const live: LiveStroke = {
      owner: { kind: 'layer', layer: 'l' },
      stroke: { action: 'reveal', size: 0.1, softness: 1, flow: 1, points: [] },
      touched: { x: 0, y: 0, width: 1, height: 1 },
    };
    const still = state(first);
    expect(causeOf({ ...still, live }, still)).toBe('movement');
    expect(causeOf(still, { ...still, live })).toBe('act');
    expect(causeOf({ ...still, session: { ...START, station: 'fit' } }, still)).toBe('act');
  });
});
