'use client';
import { type RefObject, useEffect, useRef } from 'react';
import { type Brush } from '@/store/session';
import { isElsewhere } from '@/ui/isElsewhere';
import { useActions, useBenchParts } from '../benchContext';

/** held while the hand changes the brush instead of drawing */
const KEY = 'n';
/** smallest and largest brush, fractions of the long edge */
const [LEAST, MOST] = [2 ** -9, 2 ** -0.5];
const STEP = 2 ** 0.25;
const SOFTER = 0.05;

/** What an arrow does to the brush: sideways its size, upwards its softness. */
const ARROWS: Readonly<Record<string, (brush: Brush) => Brush>> = {
  ArrowRight: (brush) => shaped(brush, brush.size * STEP, brush.softness),
  ArrowLeft: (brush) => shaped(brush, brush.size / STEP, brush.softness),
  ArrowUp: (brush) => shaped(brush, brush.size, brush.softness + SOFTER),
  ArrowDown: (brush) => shaped(brush, brush.size, brush.softness - SOFTER),
};

/** A brush of another size and softness, as far as they go. */
export const shaped = (brush: Brush, size: number, softness: number): Brush => ({
  ...brush,
  size: Math.min(MOST, Math.max(LEAST, size)),
  softness: Math.min(1, Math.max(0, Math.round(softness * 100) / 100)),
});

/** Arrows shape the brush while n is held. @returns whether it is held now */
export function useBrushKeys(inHand: boolean): RefObject<boolean> {
  const held = useRef(false);
  const actions = useActions();
  const { bench } = useBenchParts();
  useEffect(() => {
    if (!inHand) return;
    const down = (event: KeyboardEvent): void => {
      if (isElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key.toLowerCase() === KEY) held.current = true;
      const shape = held.current ? ARROWS[event.key] : undefined;
      if (!shape) return;
      actions.go({ brush: shape(bench.store.getState().session.brush) });
      event.preventDefault();
      // the table would pan, a slider would move
      event.stopPropagation();
    };
    const up = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() === KEY) held.current = false;
    };
    const away = (): void => {
      held.current = false;
    };
    window.addEventListener('keydown', down, { capture: true });
    window.addEventListener('keyup', up);
    window.addEventListener('blur', away);
    return () => {
      away();
      window.removeEventListener('keydown', down, { capture: true });
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', away);
    };
  }, [actions, bench, inHand]);
  return held;
}
