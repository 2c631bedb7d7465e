/**
 * A name from outside as text that any file and address takes: without control characters and halves of characters, at most `most`
 * units of UTF-16 long.
 */
export function plainText(text: string, most: number): string {
  const plain = text.replace(/[\p{Cc}\p{Surrogate}\u2028\u2029\ufffe\uffff]+/gu, ' ').trim();
  return plain.slice(0, most).replace(/\p{Surrogate}$/u, '');
}
