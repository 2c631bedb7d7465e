import { type Originals, originalsOf } from './originals';

/** Originals that are kept in a map, and gone with it. */
export function memoryOriginals(kept = new Map<string, Uint8Array>()): Originals {
  return originalsOf({
    lasting: true,
    save: (hash, bytes) => Promise.resolve(void kept.set(hash, bytes)),
    load: (hash) => Promise.resolve(kept.get(hash)),
    has: (hash) => Promise.resolve(kept.has(hash)),
    remove: (hashes) => Promise.resolve(hashes.forEach((hash) => kept.delete(hash))),
  });
}
