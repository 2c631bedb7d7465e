import { sha256 } from '@/core/codecs/sha256';
import { oneAtATime } from './oneAtATime';
import { within } from './within';

/** Where originals are kept for good. */
export interface OriginalStore {
  /** what it keeps is never given up under our hands, as a browser's store may be */
  readonly lasting?: boolean;
  readonly save: (hash: string, bytes: Uint8Array) => Promise<void>;
  readonly load: (hash: string) => Promise<Uint8Array | undefined>;
  readonly has: (hash: string) => Promise<boolean>;
  /** takes those away that no project names */
  readonly remove: (hashes: readonly string[]) => Promise<void>;
}

/** The originals of an opened project: what the browser keeps, and what the page itself can still bring. */
export interface Originals {
  /**
   * Keeps an original. What the browser cannot keep stays in memory as long as the page lives.
   * @param again brings it a second time, where it came from a file or an address
   * @throws what the browser says when it could not keep it
   */
  readonly keep: (hash: string, bytes: Uint8Array, again?: () => Promise<Uint8Array>) => Promise<void>;
  /**
   * The original, from wherever it still is; undefined when it is nowhere.
   * @throws what the browser says when its store could not tell
   */
  readonly load: (hash: string) => Promise<Uint8Array | undefined>;
  /** Forgets what is not wanted after all; what another project names stays. */
  readonly drop: (hashes: readonly string[]) => Promise<void>;
  /** Writes what the browser lacks of these, as far as the page has it; gives those that are not kept. */
  readonly mend: (hashes: readonly string[]) => Promise<readonly string[]>;
}

/** seconds after which what the page has itself is looked for too */
const SOON = 3;
/** bytes that are put aside at most; a browser moves what is large to its own disk cache */
const MOST_ASIDE = 400e6;

/** The originals of one opened project. */
export function originalsOf(store: OriginalStore): Originals {
  const held = new Map<string, Uint8Array>();
  // what was read from the store is put aside: the store may be given up while the page lives
  const aside = new Map<string, Blob>();
  let room = MOST_ASIDE;
  const sources = new Map<string, () => Promise<Uint8Array>>();
  const inPage = async (hash: string): Promise<Uint8Array | undefined> => {
    const blob = aside.get(hash);
    return held.get(hash) ?? (blob && new Uint8Array(await blob.arrayBuffer()));
  };
  const fromPage = async (hash: string): Promise<Uint8Array | undefined> => {
    const again = async (): Promise<Uint8Array | undefined> => sources.get(hash)?.();
    const bytes = (await inPage(hash).catch(() => undefined)) ?? (await again().catch(() => undefined));
    // a file may have changed since it was dropped
    return bytes && (await sha256(bytes)) === hash ? bytes : undefined;
  };
  const mendAll = async (hashes: readonly string[]): Promise<readonly string[]> => {
    const lacking: string[] = [];
    for (const hash of hashes) {
      try {
        // a store that does not say is written to: what it has stays as it is
        if (await store.has(hash).catch(() => false)) {
          held.delete(hash);
          continue;
        }
        const bytes = await fromPage(hash);
        if (!bytes) throw new Error('gone');
        await store.save(hash, bytes);
        held.delete(hash);
      } catch {
        lacking.push(hash);
      }
    }
    return lacking;
  };
  const inTurn = oneAtATime();
  return {
    keep: async (hash, bytes, again) => {
      if (again) sources.set(hash, again);
      try {
        await store.save(hash, bytes);
        held.delete(hash);
      } catch (thrown) {
        held.set(hash, bytes);
        throw thrown;
      }
    },
    load: async (hash) => {
      // the page answers at once; a store on a full disk may take its time to fail
      const known = await inPage(hash).catch(() => undefined);
      if (known) return known;
      const asked = store.load(hash);
      const bytes = await within(SOON, asked).catch(() => undefined);
      if (!bytes) return (await fromPage(hash)) ?? asked;
      if (!store.lasting && !sources.has(hash) && !aside.has(hash) && bytes.length <= room) {
        room -= bytes.length;
        aside.set(hash, new Blob([bytes.slice()]));
      }
      return bytes;
    },
    drop: async (hashes) => {
      for (const hash of hashes) {
        held.delete(hash);
        sources.delete(hash);
        room += aside.get(hash)?.size ?? 0;
        aside.delete(hash);
      }
      await store.remove(hashes);
    },
    // one after the other: a file that is put in its place a second time fails whoever reads it at that moment
    mend: (hashes) => inTurn(() => mendAll(hashes)),
  };
}
