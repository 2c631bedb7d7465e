import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { Measure } from './controls/Measure';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

/** A slider whose value comes back when it is given. */
function slider() {
  const user = userEvent.setup({ advanceTimers: (ms) => jest.advanceTimersByTime(ms) });
  const asked: number[] = [];
  const shown = (value: number) => (
    <Measure
      label="Exposure"
      {...{ value, min: -4, max: 4, step: 0.1 }}
      format={(v) => v.toFixed(1)}
      onChange={(v) => asked.push(Math.round(10 * v) / 10)}
    />
  );
  const { rerender } = render(shown(0));
  const at = () => screen.getByRole('slider', { name: 'Exposure' });
  act(() => at().focus());
  return { user, asked, at, give: (value: number) => rerender(shown(value)) };
}

test('steps of a slider add up, though what they change comes back late', async () => {
  const { user, asked, at, give } = slider();
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}');
  expect(asked).toEqual([0.1, 0.2, 0.3]);
  expect(at()).toHaveValue('0.3');
  // an earlier step comes back: the slider does not jump there
  give(0.1);
  expect(at()).toHaveValue('0.3');
  give(0.3);
  await user.keyboard('{ArrowLeft}');
  expect(asked.at(-1)).toBe(0.2);
});

test('what is given counts again once the hand rests', async () => {
  const { user, at, give } = slider();
  await user.keyboard('{ArrowRight}');
  give(-1);
  act(() => jest.advanceTimersByTime(300));
  expect(at()).toHaveValue('-1');
});
