import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** of a name, hexadecimal digits: 128 bits, so that no two values ever share one */
const DIGITS = 32;

const known = new WeakMap<object, string>();

const digest = (bytes: Uint8Array): string => bytesToHex(sha256(bytes)).slice(0, DIGITS);

/**
 * Names a value by what it says: SHA-256 (FIPS 180-4) over its canonical text, keys sorted, absent members left out. Values are never changed
 * once they are made, so a value that was named once is not looked at again.
 * @param value plain data: numbers, text, lists, records, typed arrays
 */
export function contentHash(value: object): string {
  const before = known.get(value);
  if (before) return before;
  const hash = ArrayBuffer.isView(value)
    ? digest(new Uint8Array(value.buffer, value.byteOffset, value.byteLength).slice())
    : digest(utf8ToBytes(canonical(value)));
  known.set(value, hash);
  return hash;
}

function canonical(value: unknown): string {
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : `"${value}"`;
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (ArrayBuffer.isView(value)) return `#${contentHash(value)}`;
  if (Array.isArray(value)) return `[${value.map(canonical).join()}]`;
  const record = value as Readonly<Record<string, unknown>>;
  const members = Object.keys(record)
    .filter((key) => record[key] !== undefined)
    .sort()
    .map((key) => `${JSON.stringify(key)}:${canonical(record[key])}`);
  return `{${members.join()}}`;
}
