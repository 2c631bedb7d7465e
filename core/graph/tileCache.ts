import { type At, type Value } from './tile';

/** Tiles that were made before, by what they are and where. */
export interface TileCache {
  readonly get: (hash: string, at: At) => Value | undefined;
  readonly set: (hash: string, at: At, value: Value) => void;
}

/** Keeps nothing. */
export const NO_CACHE: TileCache = { get: () => undefined, set: () => undefined };

const keyOf = (hash: string, { level, area, kernel }: At): string =>
  `${hash} ${level} ${area.x} ${area.y} ${area.width} ${area.height} ${kernel}`;

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
    get: (hash, at) => {
      const key = keyOf(hash, at);
      const value = kept.get(key);
      if (!value) return undefined;
      kept.delete(key);
      kept.set(key, value);
      return value;
    },
    set: (hash, at, value) => {
      const key = keyOf(hash, at);
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
