const waiting = new Set<() => void>();
let due: ReturnType<typeof setTimeout> | undefined;
/** milliseconds that this turn has taken */
let spent = 0;

/** What one turn may take of the page's thread, milliseconds. */
const TURN = 8;

function timed(work: () => void): void {
  const start = performance.now();
  work();
  spent += performance.now() - start;
}

function turn(): void {
  due = undefined;
  spent = 0;
  for (const work of waiting) {
    waiting.delete(work);
    timed(work);
    if (spent > TURN) break;
  }
  if (waiting.size > 0) due = setTimeout(turn);
}

/**
 * Does small pieces of drawing at once, as long as there are few of them, and the others after them with the page free between: fifty at
 * once would hold it.
 * @returns what takes the piece back
 */
export function inTurn(work: () => void): () => void {
  due ??= setTimeout(turn);
  if (waiting.size === 0 && spent < TURN) timed(work);
  else waiting.add(work);
  return () => {
    waiting.delete(work);
  };
}
