import { databaseFiles } from './databaseFiles';
import { privateFiles } from './privateFiles';
import { type Folder, type FileStore } from './storedFiles';
import { within } from './within';

const opened = new Map<Folder, Promise<FileStore>>();

/** The files of a folder: in the origin's private file system where there is one, else in a database of their own. */
export function fileStore(folder: Folder): Promise<FileStore> {
  const known =
    opened.get(folder) ?? privateFiles(folder).then((files) => answering(files ?? databaseFiles(folder)));
  opened.set(folder, known);
  known.catch(() => opened.delete(folder));
  return known;
}

/** seconds after which a store counts as not answering; a large file takes its time */
const ANSWERS_WITHIN = 10;
const READS_WITHIN = 30;
const WRITES_WITHIN = 120;

/** A store of which every question is answered, or fails. */
function answering(files: FileStore): FileStore {
  return {
    write: (name, bytes) => within(WRITES_WITHIN, files.write(name, bytes)),
    read: (name) => within(READS_WITHIN, files.read(name)),
    has: (name) => within(ANSWERS_WITHIN, files.has(name)),
    remove: (name) => within(ANSWERS_WITHIN, files.remove(name)),
    list: () => within(ANSWERS_WITHIN, files.list()),
  };
}
