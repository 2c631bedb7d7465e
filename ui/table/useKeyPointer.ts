'use client';
import { type KeyboardEvent, useState } from 'react';
import { type Tool } from './tool';
import { type Size, toPicture, type Viewport } from './viewport';

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const STEP = 8;
const LEAP = 48;

/** A pointer for tools that keys move: arrows (with shift farther), Enter sets down and lifts. */
export function useKeyPointer(
  tool: Tool | undefined,
  viewport: Viewport,
  size: Size,
  onPoint?: (point: { x: number; y: number }) => void,
): { at: readonly [number, number] | undefined; onKey: (event: KeyboardEvent) => boolean } {
  const [at, setAt] = useState<readonly [number, number]>();
  const [down, setDown] = useState(false);
  const onKey = (event: KeyboardEvent): boolean => {
    if (!tool) return false;
    const step = STEPS[event.key];
    const from = at ?? [size.width / 2, size.height / 2];
    const point = ([sx, sy]: readonly [number, number]) => {
      const [x, y] = toPicture(viewport, size, sx, sy);
      return { x, y, pressure: 1 };
    };
    if (step) {
      const by = event.shiftKey ? LEAP : STEP;
      const next = [
        Math.min(size.width, Math.max(0, from[0] + step[0] * by)),
        Math.min(size.height, Math.max(0, from[1] + step[1] * by)),
      ] as const;
      setAt(next);
      onPoint?.(point(next));
      if (down) tool.onMove([point(next)]);
    } else if (event.key === 'Enter') {
      setAt(from);
      if (down) tool.onEnd();
      else tool.onStart(point(from));
      setDown(!down);
    } else return false;
    event.preventDefault();
    return true;
  };
  return { at, onKey };
}
