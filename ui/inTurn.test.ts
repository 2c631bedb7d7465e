import { expect, jest, test } from '@jest/globals';
import { inTurn } from './inTurn';

test('pieces are drawn in the order they were asked for, with the page free between long ones', () => {
  jest.useFakeTimers({ doNotFake: ['performance'] });
  const clock = jest.spyOn(performance, 'now');
  let now = 0;
  clock.mockImplementation(() => now);
  try {
    const drawn: number[] = [];
    for (const k of [0, 1, 2])
      inTurn(() => {
        drawn.push(k);
        // a piece that takes longer than a turn
        now += 20;
      });
    expect(drawn).toEqual([]);
    jest.advanceTimersToNextTimer();
    expect(drawn).toEqual([0]);
    jest.runAllTimers();
    expect(drawn).toEqual([0, 1, 2]);
  } finally {
    clock.mockRestore();
    jest.useRealTimers();
  }
});

test('a piece that was taken back is not drawn', () => {
  jest.useFakeTimers();
  try {
    const drawn: string[] = [];
    const back = inTurn(() => drawn.push('first'));
    inTurn(() => drawn.push('second'));
    back();
    jest.runAllTimers();
    expect(drawn).toEqual(['second']);
  } finally {
    jest.useRealTimers();
  }
});
