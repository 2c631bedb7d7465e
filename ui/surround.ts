'use client';
import { useSyncExternalStore } from 'react';
import { type Surround, SURROUNDS } from './tokens';

const KEY = 'marsh.surround';
const listeners = new Set<() => void>();

const isSurround = (value: string | null): value is Surround => value !== null && value in SURROUNDS;

function current(): Surround {
  const own = document.documentElement.dataset.surround ?? null;
  return isSurround(own) ? own : 'light';
}

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
    current,
    () => 'light',
  );
}
