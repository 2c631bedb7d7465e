import { type Followed } from './useFollowed';

/** A value outside React that whoever holds it changes, and only its followers hear of. */
export interface Followable<T> extends Followed<T> {
  readonly set: (next: T) => void;
}

/** @param first what it is until it is changed */
export function followable<T>(first: T): Followable<T> {
  const followers = new Set<() => void>();
  let now = first;
  return {
    get: () => now,
    set: (next) => {
      now = next;
      for (const follower of [...followers]) follower();
    },
    subscribe: (changed) => {
      followers.add(changed);
      return () => void followers.delete(changed);
    },
  };
}
