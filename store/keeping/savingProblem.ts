/** What was thrown, by name and words; a browser's own exceptions are not errors of every realm. */
function namedFailure(thrown: unknown): { readonly name: string; readonly message: string } {
  const { name, message } = (thrown ?? {}) as { name?: unknown; message?: unknown };
  return {
    name: typeof name === 'string' ? name : '',
    message: typeof message === 'string' ? message : String(thrown),
  };
}

/** What to say when a project could not be written. */
export function savingProblem(thrown: unknown): string {
  const { name, message } = namedFailure(thrown);
  const safe = 'Everything done here stays as long as this page is open';
  if (name === 'QuotaExceededError' || /NO_SPACE|no space|disk is full/i.test(message))
    return `The browser has no room left to save this project. ${safe}: export the project file now, then take old projects off the shelf or free some disk. Saving is tried again by itself.`;
  if (name === 'DataCloneError')
    return `The last step cannot be written (${message}). ${safe}: take it back, and saving goes on.`;
  if (['UnknownError', 'InvalidStateError', 'AbortError', 'TimeoutError'].includes(name))
    return `The browser’s store does not answer (${message}). ${safe}: export the project file to be sure. Saving is tried again by itself.`;
  if (name === 'VersionError' || name === 'NotFoundError')
    return `Another version of Marsh has changed the browser’s store. ${safe}: export the project file, then reload the page.`;
  return `This project could not be saved (${message || name}). ${safe}: export the project file to be sure. Saving is tried again by itself.`;
}

/** What to say of originals that could not be written. */
export function keepingProblem(names: readonly string[], thrown?: unknown): string {
  const which = names.length === 1 ? `“${names[0]}”` : `“${names[0]}” and ${names.length - 1} more`;
  const { name, message } = namedFailure(thrown);
  const room = name === 'QuotaExceededError' || name === 'InvalidStateError' || /NO_SPACE/.test(message);
  const why =
    thrown === undefined || room ? 'there is no room left, or its store does not answer' : message || name;
  return `${which} could not be kept by the browser: ${why}. The picture is here as long as this page is open: export the project file before you close it.`;
}

/** What to say while the project is kept as a file because the browser's database does not take it. */
export const KEPT_BESIDE =
  'The browser’s database does not answer; the project is kept as a file beside it, without the steps that can be taken back. It comes back when the browser is started anew.';
