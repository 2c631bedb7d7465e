import { type DropItem } from 'react-aria-components';

/** Files that one drop may bring, with all its folders. */
const MOST_FILES = 400;
const DEEPEST = 6;

/** All files of a drop, those of folders too, in order of their names. */
export async function droppedFiles(items: readonly DropItem[]): Promise<File[]> {
  const files: File[] = [];
  const take = async (item: DropItem, depth: number): Promise<void> => {
    if (files.length >= MOST_FILES) return;
    if (item.kind === 'file') files.push(await item.getFile());
    else if (item.kind === 'directory' && depth < DEEPEST)
      for await (const entry of item.getEntries()) await take(entry, depth + 1);
  };
  for (const item of items) await take(item, 0);
  return files.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
}
