import { type Combination, MOST_COMBINATIONS, readCombinations } from './combination';

const KEY = 'marsh.combinations';
const listeners = new Set<() => void>();
let now: readonly Combination[] | undefined;

function restored(): readonly Combination[] {
  try {
    return readCombinations(localStorage.getItem(KEY) ?? '[]');
  } catch {
    // a browser that keeps nothing, or something else under this name, starts anew
    return [];
  }
}

/** Those that were saved in this browser, last first. */
export const keptCombinations = (): readonly Combination[] => (now ??= restored());

/** Keeps combinations in this browser. @returns whether it did */
export function keepCombinations(next: readonly Combination[]): boolean {
  const some = next.slice(0, MOST_COMBINATIONS);
  try {
    localStorage.setItem(KEY, JSON.stringify(some));
  } catch {
    return false;
  }
  now = some;
  listeners.forEach((listener) => listener());
  return true;
}

/** Tells of changes, those of another tab too. */
export function onCombinations(listener: () => void): () => void {
  const elsewhere = (event: StorageEvent): void => {
    if (event.key !== KEY) return;
    now = undefined;
    listener();
  };
  listeners.add(listener);
  globalThis.addEventListener('storage', elsewhere);
  return () => {
    listeners.delete(listener);
    globalThis.removeEventListener('storage', elsewhere);
  };
}
