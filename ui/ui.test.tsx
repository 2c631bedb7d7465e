import { describe, expect, jest, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { judge } from '@/core/proof/finding';
import { Choice } from './controls/Choice';
import { Measure } from './controls/Measure';
import { BarChart } from './chart/BarChart';
import { FindingList } from './FindingList';
import { findingLine, formatStops, formatValue } from './formatFinding';
import { VerdictMark } from './VerdictMark';

const user = userEvent.setup();

describe('numbers as they are read', () => {
  test.each([
    [0.083, 'px', '0.08 px'],
    [-0.36, '°', '−0.36°'],
    [97.43, '%', '97.4 %'],
    [0.863, '%', '0.86 %'],
    [3, '', '3'],
    [2.546, 'MP', '2.55 MP'],
  ])('%f %s', (value, unit, text) => expect(formatValue(value, unit)).toBe(text));
  test('stops carry their sign, nothing does not', () =>
    expect([1.96, -0.5, 0.01].map((v) => formatStops(v))).toEqual(['+2.0 EV', '−0.5 EV', '0.0 EV']));
  test('a line for the trail, whose unit never parts from its number', () =>
    expect(findingLine(judge('fit.typical', 0.083))).toBe('typical error 0.08\u00a0px'));
});

describe('controls', () => {
  test('a verdict has a name besides its shape', () => {
    render(
      <>
        <VerdictMark verdict="fail" />
        <VerdictMark verdict="none" />
      </>,
    );
    expect(screen.getByRole('img', { name: 'to be mended' })).toBeInTheDocument();
    expect(screen.getByRole('img', { name: 'not made yet' })).toBeInTheDocument();
  });

  test('a measure is a slider that reads in its unit and says when the hand lets go', async () => {
    const [onChange, onChangeEnd] = [jest.fn(), jest.fn()];
    render(
      <Measure
        label="Flow"
        value={0.5}
        min={0}
        max={1}
        step={0.1}
        format={(v) => `${100 * v} %`}
        onChange={onChange}
        onChangeEnd={onChangeEnd}
      />,
    );
    expect(screen.getByText('50 %')).toBeInTheDocument();
    act(() => screen.getByRole('slider', { name: 'Flow' }).focus());
    await user.keyboard('{ArrowRight}');
    expect(onChange).toHaveBeenCalledWith(0.6);
    expect(onChangeEnd).toHaveBeenCalledTimes(1);
  });

  test('a choice never ends up empty', async () => {
    const onChange = jest.fn();
    render(
      <Choice
        label="Kind"
        value="a"
        options={[
          { value: 'a', label: 'A' },
          { value: 'b', label: 'B' },
        ]}
        onChange={onChange}
      />,
    );
    await user.click(screen.getByRole('radio', { name: 'A' }));
    expect(onChange).not.toHaveBeenCalled();
    await user.click(screen.getByRole('radio', { name: 'B' }));
    expect(onChange).toHaveBeenCalledWith('b');
  });

  test('findings are buttons that open one at a time', async () => {
    const onChoose = jest.fn();
    const findings = [judge('fit.typical', 0.9), judge('fit.turn', 0.2)];
    render(<FindingList findings={findings} chosen="fit.turn" onChoose={onChoose} />);
    expect(screen.getByText('Steady for a handheld set.')).toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: /Typical error/ }));
    expect(onChoose).toHaveBeenCalledWith(findings[0]);
  });

  test('a chart tells its values to those who cannot see it', () => {
    render(
      <BarChart
        label="Left after the fit"
        bars={[{ name: 'Frame 1', value: 0.08 }]}
        max={0.5}
        format={(v) => `${v} px`}
      />,
    );
    expect(screen.getByRole('img', { name: 'Left after the fit: Frame 1 0.08 px' })).toBeInTheDocument();
  });
});
