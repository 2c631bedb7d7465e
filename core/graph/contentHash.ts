import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** of a name, hexadecimal digits: 128 bits, so that no two values ever share one */
const DIGITS = 32;

const known = new WeakMap<object, string>();

/** names of texts that were named before, in the order in which they were: a graph is made anew with every step of the hand, and hardly differs */
const texts = new Map<string, string>();
const MOST_TEXTS = 20_000;

function textHash(text: string): string {
  const before = texts.get(text);
  if (before) return before;
  const hash = digest(utf8ToBytes(text));
  texts.set(text, hash);
  const [oldest] = texts.size > MOST_TEXTS ? texts.keys() : [];
  if (oldest !== undefined) texts.delete(oldest);
  return hash;
}

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
    : textHash(canonical(value));
  known.set(value, hash);
  return hash;
}

/** canonical texts of parts that were named in other values: strokes, regions and edits stay what they are while their neighbours change */
const texted = new WeakMap<object, string>();
const WORTH_KEEPING = 60;

function canonical(value: unknown): string {
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : `"${value}"`;
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (ArrayBuffer.isView(value)) return `#${contentHash(value)}`;
  const before = texted.get(value);
  if (before !== undefined) return before;
  const text = Array.isArray(value) ? `[${value.map(canonical).join()}]` : membersText(value);
  if (text.length >= WORTH_KEEPING) texted.set(value, text);
  return text;
}

/** the keys of records in their canonical order and as text, by the keys as they came: settings of one kind have the same, thousands of times a second */
const orders = new Map<string, readonly (readonly [key: string, text: string])[]>();
const MOST_ORDERS = 2_000;

function orderOf(record: object): readonly (readonly [string, string])[] {
  const keys = Object.keys(record);
  const name = keys.join('\0');
  const known = orders.get(name);
  if (known) return known;
  const order = keys.sort().map((key) => [key, `${JSON.stringify(key)}:`] as const);
  // keys that are ids differ from record to record
  if (orders.size < MOST_ORDERS && !keys.some((k) => k.includes('\0'))) orders.set(name, order);
  return order;
}

function membersText(value: object): string {
  const record = value as Readonly<Record<string, unknown>>;
  let text = '';
  for (const [key, start] of orderOf(record)) {
    const member = record[key];
    if (member !== undefined) text += `${text && ','}${start}${canonical(member)}`;
  }
  return `{${text}}`;
}

/** What {@link contentHash} names `{ inputs, kind, settings: its own name, version }`: the text is written straight down, for every step of a graph is named with every step of the hand. */
export function stepHash(kind: string, version: number, settings: object, inputs: readonly string[]): string {
  const list = inputs.length === 0 ? '' : `"${inputs.join('","')}"`;
  return textHash(
    `{"inputs":[${list}],"kind":"${kind}","settings":"${contentHash(settings)}","version":${version}}`,
  );
}
