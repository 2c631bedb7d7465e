import { type Value } from './tile';

/** Tiles that were made before, by what they are and where. */
export interface TileCache {
  readonly get: (key: string) => Value | undefined;
  readonly set: (key: string, value: Value) => void;
}

/** Keeps nothing. */
export const NO_CACHE: TileCache = { get: () => undefined, set: () => undefined };

const sizeOf = (value: Value): number =>
  value.is === 'light'
    ? 4 * value.planes[0].length * (value.alpha ? 4 : 3)
    : value.is === 'mask'
      ? 4 * value.plane.length
      : 0;

/** Keeps the tiles that were last asked for. @param most bytes in all */
export function tileCache(most: number): TileCache {
  // in the order in which they were last asked for
  const kept = new Map<string, Value>();
  let held = 0;
  return {
    get: (key) => {
      const value = kept.get(key);
      if (!value) return undefined;
      kept.delete(key);
      kept.set(key, value);
      return value;
    },
    set: (key, value) => {
      const before = kept.get(key);
      if (before) held -= sizeOf(before);
      kept.delete(key);
      kept.set(key, value);
      held += sizeOf(value);
      for (const [old, tile] of kept) {
        if (held <= most) break;
        kept.delete(old);
        held -= sizeOf(tile);
      }
    },
  };
}
