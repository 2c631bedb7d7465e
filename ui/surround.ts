'use client';
import { useSyncExternalStore } from 'react';
import { isSurround, type Surround, surroundNow } from './tokens';

const KEY = 'marsh.surround';
const listeners = new Set<() => void>();

/** Chooses how light it is around the picture; kept in this browser. */
export function setSurround(surround: Surround): void {
  document.documentElement.dataset.surround = surround;
  try {
    localStorage.setItem(KEY, surround);
  } catch {
    // a browser that keeps nothing starts light again
  }
  listeners.forEach((listener) => listener());
}

/** The surround that was chosen last time. */
export function restoreSurround(): void {
  let kept: string | null = null;
  try {
    kept = localStorage.getItem(KEY);
  } catch {
    // as above
  }
  if (isSurround(kept)) setSurround(kept);
}

/** The surround in force. */
export function useSurround(): Surround {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    surroundNow,
    () => 'light',
  );
}
