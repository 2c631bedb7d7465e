import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { type FileStore, type Folder } from './storedFiles';

interface FilesSchema extends DBSchema {
  originals: { key: string; value: StoredFile };
  recipes: { key: string; value: StoredFile };
}

interface StoredFile {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly written: number;
}

let open: Promise<IDBPDatabase<FilesSchema>> | undefined;

function files(): Promise<IDBPDatabase<FilesSchema>> {
  open ??= openDB<FilesSchema>('marsh-files', 1, {
    upgrade: (db) => {
      db.createObjectStore('originals');
      db.createObjectStore('recipes');
    },
    blocking: (_current, _blocked, event) => {
      open = undefined;
      (event.target as IDBDatabase).close();
    },
    terminated: () => (open = undefined),
  });
  open.catch(() => (open = undefined));
  return open;
}

/** Files in a database of their own, for browsers without a private file system. */
export function databaseFiles(folder: Folder): FileStore {
  return {
    write: async (name, bytes) => {
      await (await files()).put(folder, { bytes: new Uint8Array(bytes), written: Date.now() }, name);
    },
    read: async (name) => (await (await files()).get(folder, name))?.bytes,
    has: async (name) => (await (await files()).count(folder, name)) > 0,
    remove: async (name) => (await files()).delete(folder, name),
    list: async () => {
      const db = await files();
      const names = await db.getAllKeys(folder);
      return Promise.all(
        names.map(async (name) => ({ name, written: (await db.get(folder, name))?.written ?? Date.now() })),
      );
    },
  };
}
