import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { pictureFirst } from './pictureFirst';

const frames: (() => void)[] = [];
beforeEach(() => {
  jest.useFakeTimers();
  globalThis.requestAnimationFrame = (then) => frames.push(() => then(0));
});
afterEach(() => {
  jest.useRealTimers();
  frames.length = 0;
});

/** A source of numbers, of which odd ones come of a moving hand and those over 100 of one act; and what a follower heard. */
function follow() {
  let value = 0;
  const told: number[] = [];
  const listeners = new Set<() => void>();
  const source = pictureFirst(
    {
      get: () => value,
      subscribe: (l) => {
        listeners.add(l);
        return () => listeners.delete(l);
      },
    },
    (now) => (now % 2 === 1 ? 'movement' : now > 100 ? 'act' : 'other'),
  );
  const end = source.subscribe(() => told.push(source.get()));
  const set = (next: number): void => {
    value = next;
    for (const l of listeners) l();
  };
  const frame = (): void => {
    for (const then of frames.splice(0)) then();
    jest.advanceTimersByTime(0);
  };
  return { source, told, set, frame, end, listeners };
}

test('what a hand goes on moving is told behind the frame that shows it, and what comes beside it; an act at once', () => {
  const { source, told, set, frame } = follow();
  set(2);
  expect(told).toEqual([2]);
  set(3);
  expect(told).toEqual([2]);
  source.shown();
  expect(told).toEqual([2]);
  frame();
  expect(told).toEqual([2, 3]);
  set(5);
  set(4);
  expect(told).toEqual([2, 3]);
  source.shown();
  frame();
  expect(told).toEqual([2, 3, 4]);
  set(6);
  expect(told).toEqual([2, 3, 4, 6]);
  set(7);
  set(102);
  expect(told).toEqual([2, 3, 4, 6, 102]);
});

test('a further step waits for its own picture', () => {
  const { source, told, set, frame } = follow();
  set(1);
  source.shown();
  set(3);
  frame();
  expect(told).toEqual([]);
  source.shown();
  frame();
  expect(told).toEqual([3]);
});

test('where no picture comes it is told all the same, and nobody is told who has gone', () => {
  const { told, set, end, listeners } = follow();
  set(1);
  jest.advanceTimersByTime(59);
  expect(told).toEqual([]);
  jest.advanceTimersByTime(1);
  expect(told).toEqual([1]);
  set(3);
  end();
  jest.advanceTimersByTime(1000);
  expect(told).toEqual([1]);
  expect(listeners.size).toBe(0);
});
