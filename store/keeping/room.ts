/** Asks the browser to keep what is stored here even when room is short; it may decline. */
export async function askToKeep(): Promise<boolean> {
  try {
    return (await navigator.storage.persisted()) || (await navigator.storage.persist());
  } catch {
    return false;
  }
}

/** Bytes that the browser still has for this page; undefined where it does not say. */
export async function roomLeft(): Promise<number | undefined> {
  try {
    const { quota, usage } = await navigator.storage.estimate();
    return quota === undefined || usage === undefined ? undefined : Math.max(0, quota - usage);
  } catch {
    return undefined;
  }
}

const megabytes = (bytes: number): string => `${Math.max(1, Math.round(bytes / 1e6))} MB`;

/** What to say before files are taken that the browser has no room for; undefined where it has. */
export function roomProblem(wanted: number, left: number | undefined): string | undefined {
  if (left === undefined || wanted <= left) return undefined;
  return `These files need ${megabytes(wanted)} and the browser has room for ${megabytes(left)}. What it cannot keep stays only as long as this page is open: take old projects off the shelf first, or export the project file before you close the page.`;
}
