import {
  configure,
  type FileEntry,
  Reader,
  Writer,
  ZipReader,
} from '@zip.js/zip.js/lib/zip-core-external.js';
import { Problem } from '../proof/problem';
import { parseProject } from '../recipe/parseProject';
import { type Frame, type Project } from '../recipe/project';
import { FILE_LIMITS } from './fileLimits';
import { entryOf } from './packProject';
import { sha256 } from './sha256';

/** A file that is read piece by piece; a browser's `Blob` is one. */
export interface PackedFile {
  readonly size: number;
  readonly slice: (from: number, to: number) => { readonly arrayBuffer: () => Promise<ArrayBuffer> };
}

/** What a project file says, checked. */
export interface ProjectFile {
  readonly project: Project;
  /** the finished picture, small, JPEG */
  readonly preview?: Uint8Array<ArrayBuffer>;
}

/** An opened project file; nothing is unpacked before it is asked for. */
export interface OpenedProjectFile {
  /** @throws Problem when it holds no whole project */
  readonly read: () => Promise<ProjectFile>;
  /**
   * The original of a frame.
   * @throws Problem when it is damaged or another file than the recipe says
   */
  readonly original: (frame: Pick<Frame, 'file' | 'hash' | 'bytes'>) => Promise<Uint8Array<ArrayBuffer>>;
}

/** bytes that the parts of a project file may unpack to */
const MOST = { recipe: 50e6, preview: 4e6 } as const;

configure({ useWebWorkers: false });

/**
 * Opens a project file: a zip of `project.json`, `originals/HASH` and `preview.jpg`. Only what is asked for is unpacked, entry by entry,
 * and never to more than the file and the recipe say; everything else in the zip is left alone.
 * @throws Problem when it is no project file, is damaged, unpacks to too much, or lacks a frame
 */
export async function openProjectFile(file: string, packed: PackedFile): Promise<OpenedProjectFile> {
  const damaged = (): Problem =>
    new Problem(`“${file}” is damaged or is not a Marsh project file. Open another copy.`);
  const zip = new ZipReader(new PieceReader(packed), { checkOverlappingEntry: true, checkSignature: true });
  const entries = new Map<string, FileEntry>();
  try {
    let seen = 0;
    for await (const entry of zip.getEntriesGenerator()) {
      if (++seen > MOST_ENTRIES)
        throw new Problem(`“${file}” holds more than ${MOST_ENTRIES} files. It was left closed.`);
      if (entry.directory) continue;
      if (entries.has(entry.filename))
        throw new Problem(`“${file}” holds two files of one name. It was left closed.`);
      entries.set(entry.filename, entry);
    }
  } catch (thrown) {
    throw thrown instanceof Problem ? thrown : damaged();
  }
  const unpack = async (name: string, most: number): Promise<Uint8Array<ArrayBuffer> | undefined> => {
    const entry = entries.get(name);
    if (!entry) return undefined;
    if (entry.encrypted) throw new Problem(`“${file}” is encrypted. Unlock it first, then open it.`);
    if (!(entry.uncompressedSize <= most))
      throw new Problem(`“${file}” unpacks to more than Marsh takes. It was left closed.`);
    const writer = new BoundedWriter(entry.uncompressedSize);
    try {
      return await entry.getData(writer);
    } catch {
      throw writer.overflown
        ? new Problem(`“${file}” unpacks to more than it says. It may be meant to do harm; leave it out.`)
        : damaged();
    }
  };
  const read = async (): Promise<ProjectFile> => {
    const recipe = await unpack('project.json', MOST.recipe);
    if (!recipe) throw new Problem(`“${file}” is not a Marsh project file: it holds no recipe.`);
    let json: unknown;
    try {
      json = JSON.parse(new TextDecoder().decode(recipe));
    } catch {
      throw new Problem(`“${file}” is damaged: its recipe cannot be read. Open another copy.`);
    }
    const project = parseProject(json, file);
    for (const frame of project.frames) {
      const entry = entries.get(entryOf(frame.hash));
      if (!entry) throw new Problem(`“${file}” lacks the original of “${frame.file}”. Open another copy.`);
      if (entry.uncompressedSize !== frame.bytes)
        throw new Problem(
          `“${file}” is damaged: the original of “${frame.file}” has another size. Open another copy.`,
        );
    }
    const preview = entries.has('preview.jpg') ? await unpack('preview.jpg', MOST.preview) : undefined;
    return { project, ...(preview ? { preview } : {}) };
  };
  const original: OpenedProjectFile['original'] = async ({ hash, bytes, file: name }) => {
    const found = await unpack(entryOf(hash), Math.min(FILE_LIMITS.bytes, bytes));
    if (!found) throw new Problem(`“${file}” lacks the original of “${name}”. Open another copy.`);
    if ((await sha256(found)) !== hash)
      throw new Problem(`“${file}” is damaged: the original of “${name}” has changed. Open another copy.`);
    return found;
  };
  return { read, original };
}

/** a zip names other files too, such as what a system adds to a folder */
const MOST_ENTRIES = 2 * FILE_LIMITS.entries;

/** Reads a packed file piece by piece. */
class PieceReader extends Reader<PackedFile> {
  constructor(private readonly packed: PackedFile) {
    super(packed);
    this.size = packed.size;
  }

  override async readUint8Array(from: number, length: number): Promise<Uint8Array> {
    return new Uint8Array(await this.packed.slice(from, Math.min(this.size, from + length)).arrayBuffer());
  }
}

/** Takes as many bytes as were told, and not one more. */
class BoundedWriter extends Writer<Uint8Array<ArrayBuffer>> {
  overflown = false;
  private at = 0;
  private readonly bytes: Uint8Array<ArrayBuffer>;

  constructor(size: number) {
    super();
    this.bytes = new Uint8Array(size);
  }

  override writeUint8Array(piece: Uint8Array): Promise<void> {
    if (this.at + piece.length > this.bytes.length) {
      this.overflown = true;
      return Promise.reject(new Error('more than was told'));
    }
    this.bytes.set(piece, this.at);
    this.at += piece.length;
    return Promise.resolve();
  }

  override getData(): Promise<Uint8Array<ArrayBuffer>> {
    return this.at === this.bytes.length
      ? Promise.resolve(this.bytes)
      : Promise.reject(new Error('cut short'));
  }
}
