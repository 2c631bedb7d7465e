import { useEffect, useRef, useState } from 'react';

/** Something outside React that changes and says so. */
export interface Followed<S> {
  readonly get: () => S;
  /** @returns what ends it */
  readonly subscribe: (changed: () => void) => () => void;
}

/**
 * A part of an outside value; the component follows it. React's own `useSyncExternalStore` draws every change at once and as a whole;
 * here a change that was made in a transition is drawn in pieces, as the page has time, and one that a hand made at once.
 * @param same whether two parts say the same; the older one is kept then
 */
export function useFollowed<S, T>(
  source: Followed<S>,
  select: (state: S) => T,
  same: (a: T, b: T) => boolean = Object.is,
): T {
  // what it reads while it draws lies outside React, and is another each time
  'use no memo';
  const [told, tell] = useState(() => select(source.get()));
  const now = select(source.get());
  const shown = same(told, now) ? told : now;
  const latest = useRef({ select, same, told: shown });
  useEffect(() => {
    latest.current = { select, same, told: shown };
  }, [select, same, shown]);
  useEffect(() => {
    const look = (): void => {
      const next = latest.current.select(source.get());
      if (latest.current.same(latest.current.told, next)) return;
      latest.current.told = next;
      tell(() => next);
    };
    // it may have changed between the drawing and now
    look();
    return source.subscribe(look);
  }, [source]);
  return shown;
}
