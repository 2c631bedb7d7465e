/** A failure that is meant for the user: its message is a sentence that says what happened, to which file, and what to do. */
export class Problem extends Error {
  constructor(sentence: string) {
    super(sentence);
    this.name = 'Problem';
  }
}

/** The sentence to show for anything thrown: a problem's own, or one that says that this was not foreseen. */
export function problemSentence(thrown: unknown, doing: string): string {
  if (thrown instanceof Error && thrown.name === 'Problem') return thrown.message;
  const detail = thrown instanceof Error ? thrown.message : String(thrown);
  return `${doing} failed unexpectedly (${detail}). Nothing that was made is lost; try again, or reload the page.`;
}
