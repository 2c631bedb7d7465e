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
