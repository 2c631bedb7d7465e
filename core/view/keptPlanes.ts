/** Planes that were made before, by what they were made from. */
export interface KeptPlanes {
  /** The planes of a key, made when they are not at hand; to be left as they are. */
  readonly of: (key: () => string, make: () => readonly Float32Array[]) => readonly Float32Array[];
}

/** Makes everything anew. */
export const NOTHING_KEPT: KeptPlanes = { of: (_, make) => make() };

/** Keeps the planes that were last asked for. @param most numbers in all */
export function keepPlanes(most: number): KeptPlanes {
  // in the order in which they were last asked for
  const kept = new Map<string, readonly Float32Array[]>();
  const size = (planes: readonly Float32Array[]): number => planes.reduce((n, plane) => n + plane.length, 0);
  return {
    of: (keyOf, make) => {
      const key = keyOf();
      const known = kept.get(key);
      const made = known ?? make();
      if (size(made) > most) return made;
      kept.delete(key);
      kept.set(key, made);
      let held = [...kept.values()].reduce((n, planes) => n + size(planes), 0);
      for (const [old, planes] of kept) {
        if (held <= most) break;
        kept.delete(old);
        held -= size(planes);
      }
      return made;
    },
  };
}
