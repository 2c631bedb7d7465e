const waiting = new Set<() => void>();
let due: ReturnType<typeof setTimeout> | undefined;

/** What one turn may take of the page's thread, milliseconds. */
const TURN = 8;

function turn(): void {
  due = undefined;
  const end = performance.now() + TURN;
  for (const work of waiting) {
    waiting.delete(work);
    work();
    if (performance.now() > end) break;
  }
  if (waiting.size > 0) due = setTimeout(turn);
}

/**
 * Does small pieces of drawing one after the other, with the page free between them: fifty of them at once would hold it.
 * @returns what takes the piece back
 */
export function inTurn(work: () => void): () => void {
  waiting.add(work);
  due ??= setTimeout(turn);
  return () => {
    waiting.delete(work);
  };
}
