/** A failure that is meant for the user: its message is a sentence that says what happened, to which file, and what to do. */
export class Problem extends Error {
  constructor(sentence: string) {
    super(sentence);
    this.name = 'Problem';
  }
}

/** A part of Marsh itself that could not be loaded, most likely for want of a network; whatever needed it is not to blame. */
export class Unloaded extends Error {
  /** @param part what it is for, as in “the reader of WebP” */
  constructor(readonly part: string) {
    super(`${part} could not be loaded`);
    this.name = 'Unloaded';
  }
}

/** Loads a part of Marsh. @throws Unloaded when it does not come */
export async function loadedPart<T>(part: string, load: () => Promise<T>): Promise<T> {
  try {
    return await load();
  } catch {
    throw new Unloaded(part);
  }
}

/** The sentence to show for anything thrown: a problem's own, or one that says that this was not foreseen. */
export function problemSentence(thrown: unknown, doing: string): string {
  if (thrown instanceof Error && thrown.name === 'Problem') return thrown.message;
  if (thrown instanceof Error && thrown.name === 'Unloaded')
    return `${doing} needs a part of Marsh that could not be loaded (${thrown.message}). Connect to the network where Marsh came from, then try again; nothing that was made is lost.`;
  const detail = thrown instanceof Error ? thrown.message : String(thrown);
  return `${doing} failed unexpectedly (${detail}). Nothing that was made is lost; try again, or reload the page.`;
}
