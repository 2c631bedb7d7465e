import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { inTurn } from './inTurn';

let now = 0;
beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['performance'] });
  jest.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => {
  jest.runAllTimers();
  jest.restoreAllMocks();
  jest.useRealTimers();
});

/** Draws, and takes so many milliseconds for it. */
const piece = (drawn: number[], name: number, takes: number) => () => {
  drawn.push(name);
  now += takes;
};

test('few small pieces are drawn at once', () => {
  const drawn: number[] = [];
  for (const k of [0, 1, 2]) inTurn(piece(drawn, k, 1));
  expect(drawn).toEqual([0, 1, 2]);
});

test('of many the others follow in their order, with the page free between', () => {
  const drawn: number[] = [];
  for (const k of [0, 1, 2, 3]) inTurn(piece(drawn, k, 20));
  expect(drawn).toEqual([0]);
  jest.advanceTimersToNextTimer();
  expect(drawn).toEqual([0, 1]);
  // what comes now waits behind what waits already
  inTurn(piece(drawn, 4, 1));
  expect(drawn).toEqual([0, 1]);
  jest.runAllTimers();
  expect(drawn).toEqual([0, 1, 2, 3, 4]);
});

test('a piece that was taken back is not drawn', () => {
  const drawn: number[] = [];
  inTurn(piece(drawn, 0, 20));
  const back = inTurn(piece(drawn, 1, 1));
  inTurn(piece(drawn, 2, 1));
  back();
  jest.runAllTimers();
  expect(drawn).toEqual([0, 2]);
});
