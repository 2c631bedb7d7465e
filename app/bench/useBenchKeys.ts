'use client';
import { useEffect } from 'react';
import { type Station, STATIONS } from '@/store/session';
import { isElsewhere } from '@/ui/isElsewhere';

export interface BenchKeys {
  readonly onStation: (station: Station) => void;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
  readonly onZoom: () => void;
  readonly onNextLook: () => void;
}

/** Keys of the whole bench: 1–7 stations, full stop whole/1:1, v next look, the platform's own for take back and again. */
export function useBenchKeys({ onStation, onUndo, onRedo, onZoom, onNextLook }: BenchKeys): void {
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (isElsewhere(event)) return;
      const key = event.key.toLowerCase();
      if (event.ctrlKey || event.metaKey) {
        if (key === 'z' && !event.shiftKey) onUndo();
        else if (key === 'y' || (key === 'z' && event.shiftKey)) onRedo();
        else return;
      } else if (event.altKey) return;
      else if (STATIONS[Number(key) - 1]) onStation(STATIONS[Number(key) - 1]);
      else if (key === '.') onZoom();
      else if (key === 'v') onNextLook();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [onStation, onUndo, onRedo, onZoom, onNextLook]);
}

/** One more key of the bench, without modifiers. */
export function useBenchKey(key: string, run: () => void): void {
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (isElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key.toLowerCase() !== key) return;
      event.preventDefault();
      run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [key, run]);
}

/** milliseconds from which on a key counts as held */
const HELD = 250;

/** A key that does one thing when it is tapped, and another as long as it is held. @param hold begins that, and gives what ends it */
export function useHeldKey(key: string, tap: () => void, hold: () => () => void): void {
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let end: (() => void) | undefined;
    const press = (event: KeyboardEvent): void => {
      if (isElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key.toLowerCase() !== key) return;
      event.preventDefault();
      if (event.repeat || waiting !== undefined || end) return;
      waiting = setTimeout(() => {
        waiting = undefined;
        end = hold();
      }, HELD);
    };
    const leave = (): void => {
      clearTimeout(waiting);
      waiting = undefined;
      end?.();
      end = undefined;
    };
    const release = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== key) return;
      const isTapped = waiting !== undefined;
      leave();
      if (isTapped) tap();
    };
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    // a key that is let go elsewhere is not heard
    window.addEventListener('blur', leave);
    return () => {
      leave();
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
      window.removeEventListener('blur', leave);
    };
  }, [key, tap, hold]);
}
