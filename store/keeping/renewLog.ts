import { type Database } from './databaseSchema';

/** bytes of one filling; a browser keeps 64 KB and more as a file of its own */
const FILLING = 40_000;
/** bytes that a log-structured database gathers at most before it writes a table and begins a new log (LevelDB, `write_buffer_size`) */
const BUFFER = 4 * 2 ** 20;
/** fillings of one transaction, and how many of them go past the buffer for sure */
const TOGETHER = 10;
const TRANSACTIONS = Math.ceil((1.25 * BUFFER) / FILLING / TOGETHER);
const KEY = 'filling';

/** bytes of room that a new log needs: what is written, and the table that is made of it */
export const RENEWED = 2 * BUFFER;

/**
 * Makes the browser begin a new log for its database. A write that breaks off on a full disk leaves a hole in the log: what is written
 * behind it is not read when the browser starts again, or the whole database is given up as damaged (seen in Chromium 156). What is in
 * memory is whole: once more than the buffer is written, it goes to a table, and the log with its hole is removed.
 */
export async function renewLog(db: Database): Promise<void> {
  const filling = new Uint8Array(FILLING);
  for (let k = 0; k < TRANSACTIONS; k++) {
    const transaction = db.transaction('previews', 'readwrite', { durability: 'relaxed' });
    await Promise.all([
      ...Array.from({ length: TOGETHER }, () => transaction.store.put(filling, KEY)),
      transaction.done,
    ]);
  }
  const last = db.transaction('previews', 'readwrite', { durability: 'strict' });
  await Promise.all([last.store.delete(KEY), last.done]);
}
