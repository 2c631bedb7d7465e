/** What became of a value, so that the old one and this give the new one. */
export type Difference =
  | { readonly to: unknown }
  | { readonly fields: Readonly<Record<string, Difference>>; readonly gone: readonly string[] }
  | {
      /** new items before those that stayed */
      readonly head: readonly unknown[];
      /** which of the old ones stayed */
      readonly from: number;
      readonly count: number;
      /** what became of some that stayed, by index among them */
      readonly items: readonly (readonly [number, Difference])[];
      readonly tail: readonly unknown[];
    };

const isRecord = (v: unknown): v is Readonly<Record<string, unknown>> =>
  // what comes out of a store may have been made elsewhere, with prototypes of its own
  Object.prototype.toString.call(v) === '[object Object]';

/**
 * What became of plain data; undefined when nothing did. Parts that are the same object are taken as the same without a look, so that
 * what an edit leaves alone costs nothing.
 */
export function difference(before: unknown, after: unknown): Difference | undefined {
  if (Object.is(before, after)) return undefined;
  if (Array.isArray(before) && Array.isArray(after)) return ofArrays(before, after);
  if (!isRecord(before) || !isRecord(after)) return { to: after };
  const fields: [string, Difference][] = [];
  for (const key of Object.keys(after)) {
    const change = Object.hasOwn(before, key) ? difference(before[key], after[key]) : { to: after[key] };
    if (change) fields.push([key, change]);
  }
  const gone = Object.keys(before).filter((key) => !Object.hasOwn(after, key));
  return fields.length + gone.length > 0 ? { fields: Object.fromEntries(fields), gone } : undefined;
}

/** Lists grow and shrink at their ends: a record at its end, what was taken back at its front. */
function ofArrays(before: readonly unknown[], after: readonly unknown[]): Difference | undefined {
  const at = before.length > 0 ? after.indexOf(before[0]) : -1;
  const from = at < 0 && after.length > 0 ? Math.max(0, before.indexOf(after[0])) : 0;
  const head = after.slice(0, Math.max(0, at));
  const count = Math.min(before.length - from, after.length - head.length);
  const items: [number, Difference][] = [];
  for (let i = 0; i < count; i++) {
    const change = difference(before[from + i], after[head.length + i]);
    if (change) items.push([i, change]);
  }
  const tail = after.slice(head.length + count);
  const same = head.length + from + items.length + tail.length === 0 && before.length === count;
  return same ? undefined : { head, from, count, items, tail };
}

/**
 * The new value, from the old one and what became of it.
 * @throws Error when the difference is of another value
 */
export function differing(before: unknown, change: Difference): unknown {
  if ('to' in change) return change.to;
  if ('fields' in change) {
    if (!isRecord(before)) throw new Error('the difference is of another value');
    const kept = Object.entries(before).filter(([key]) => !change.gone.includes(key));
    const changed = Object.entries(change.fields).map(([key, c]): [string, unknown] => [
      key,
      differing(before[key], c),
    ]);
    return Object.fromEntries([...kept, ...changed]);
  }
  if (!Array.isArray(before) || before.length < change.from + change.count)
    throw new Error('the difference is of another value');
  const stayed: unknown[] = before.slice(change.from, change.from + change.count);
  for (const [i, c] of change.items) stayed[i] = differing(stayed[i], c);
  return [...change.head, ...stayed, ...change.tail];
}
