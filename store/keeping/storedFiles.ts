/** Files that the browser keeps for the page, by name, apart from the database of recipes: when one fails the other stays. */
export interface FileStore {
  /** Writes a file whole, or leaves what was there. */
  readonly write: (name: string, bytes: Uint8Array) => Promise<void>;
  readonly read: (name: string) => Promise<Uint8Array<ArrayBuffer> | undefined>;
  readonly has: (name: string) => Promise<boolean>;
  readonly remove: (name: string) => Promise<void>;
  /** names, each with when it was written, milliseconds since 1970 */
  readonly list: () => Promise<readonly { readonly name: string; readonly written: number }[]>;
}

/** What is kept as files. */
export type Folder = 'originals' | 'recipes';
