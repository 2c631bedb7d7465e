import { describe, expect, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { type KeyboardEvent } from 'react';
import { type ToolPoint } from './tool';
import { useKeyPointer } from './useKeyPointer';

describe('a tool by keys', () => {
  test('arrows move, Enter sets down and lifts, other keys stay free', () => {
    const told: string[] = [];
    const at = ({ x, y }: ToolPoint): string => `${x},${y}`;
    const tool = {
      onStart: (p: ToolPoint) => told.push(`start ${at(p)}`),
      onMove: (points: readonly ToolPoint[]) => told.push(`move ${points.map(at).join(' ')}`),
      onEnd: () => told.push('end'),
    };
    const viewport = { zoom: 0.5, x: 100, y: 80 };
    const { result } = renderHook(() => useKeyPointer(tool, viewport, { width: 200, height: 160 }));
    const press = (key: string, shiftKey = false): boolean => {
      let taken = false;
      const event = { key, shiftKey, preventDefault: () => undefined } as KeyboardEvent;
      act(() => {
        taken = result.current.onKey(event);
      });
      return taken;
    };
    expect(press('ArrowRight')).toBe(true);
    expect(press('Enter')).toBe(true);
    expect(press('ArrowDown', true)).toBe(true);
    expect(press('Enter')).toBe(true);
    expect(press('+')).toBe(false);
    expect(told).toEqual(['start 116,80', 'move 116,176', 'end']);
    expect(result.current.at).toEqual([108, 128]);
  });

  test('without a tool the keys are the table’s', () => {
    const { result } = renderHook(() =>
      useKeyPointer(undefined, { zoom: 1, x: 0, y: 0 }, { width: 9, height: 9 }),
    );
    expect(result.current.onKey({ key: 'Enter' } as KeyboardEvent)).toBe(false);
  });
});
