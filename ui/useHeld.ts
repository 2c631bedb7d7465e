import { useEffect, useState } from 'react';

/** milliseconds after its last movement in which something is where the hand has put it */
const HELD_MS = 300;

/**
 * What a hand moves, where the hand has it: what it changes comes back as `value` only when the picture shows it (`pictureFirst`), and a
 * next step must not begin at the one before the last.
 * @returns what is shown, and what puts it somewhere
 */
export function useHeld<T>(value: T): readonly [shown: T, hold: (next: T) => void] {
  const [held, setHeld] = useState<{ readonly at: T }>();
  useEffect(() => {
    if (!held) return;
    const timer = setTimeout(() => setHeld(undefined), HELD_MS);
    return () => clearTimeout(timer);
  }, [held]);
  return [held ? held.at : value, (next) => setHeld({ at: next })];
}
