let names = 0;

/** A name that no other reference of this thread has had, by which workers know again what several frames are fitted to. */
export function newReferenceName(): string {
  return `reference ${++names}`;
}
