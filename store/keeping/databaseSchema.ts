import { type DBSchema, type IDBPDatabase } from 'idb';
import { type StoredProject } from '../storedProject';
import { type JournalLine } from './journal';

/** What the browser's database holds. */
export interface MarshSchema extends DBSchema {
  projects: { key: string; value: StoredProject; indexes: { changed: string } };
  /** where earlier builds kept originals; they are files of their own now */
  originals: { key: string; value: Uint8Array };
  previews: { key: string; value: Uint8Array };
  journal: { key: [project: string, holder: string, line: number]; value: JournalLine };
}

/** A connection to it. */
export type Database = IDBPDatabase<MarshSchema>;
