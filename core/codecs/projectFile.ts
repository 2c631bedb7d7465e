import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { Problem } from '../proof/problem';
import { parseProject } from '../recipe/parseProject';
import { type Project } from '../recipe/project';
import { FILE_LIMITS } from './fileLimits';

/** A project with everything it needs. */
export interface ProjectParts {
  readonly project: Project;
  /** original files by hash */
  readonly originals: ReadonlyMap<string, Uint8Array>;
  /** the finished picture, small, JPEG */
  readonly preview?: Uint8Array;
}

const entryOf = (hash: string): string => `originals/${hash}`;

/** Packs a project: a zip of `project.json`, `originals/HASH` (stored as they are) and `preview.jpg`. */
export function packProject({ project, originals, preview }: ProjectParts): Uint8Array {
  const files: Zippable = { 'project.json': [strToU8(JSON.stringify(project, undefined, 1)), { level: 6 }] };
  for (const [hash, bytes] of originals) files[entryOf(hash)] = [bytes, { level: 0 }];
  if (preview) files['preview.jpg'] = [preview, { level: 0 }];
  return zipSync(files, { mtime: new Date(project.changed) });
}

/**
 * Opens a project file. The caller checks the hashes of the originals.
 * @throws Problem when it is no project file, is damaged, too large, or lacks a frame
 */
export function unpackProject(file: string, bytes: Uint8Array): ProjectParts {
  let unpacked = 0;
  let entries = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const known =
          name === 'project.json' || name === 'preview.jpg' || /^originals\/[0-9a-f]{64}$/.test(name);
        if (!known) return false;
        unpacked += originalSize;
        entries += 1;
        const most = name === 'project.json' ? 50e6 : FILE_LIMITS.bytes;
        if (originalSize > most || unpacked > FILE_LIMITS.unpackedBytes || entries > FILE_LIMITS.entries)
          throw new Problem(`“${file}” unpacks to more than Marsh takes. It was left closed.`);
        return true;
      },
    });
  } catch (thrown) {
    if (thrown instanceof Problem) throw thrown;
    throw new Problem(`“${file}” is damaged or is not a Marsh project file. Open another copy.`);
  }
  const recipe = files['project.json'];
  if (!recipe) throw new Problem(`“${file}” is not a Marsh project file: it holds no recipe.`);
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(recipe));
  } catch {
    throw new Problem(`“${file}” is damaged: its recipe cannot be read. Open another copy.`);
  }
  const project = parseProject(json, file);
  const originals = new Map<string, Uint8Array>();
  for (const frame of project.frames) {
    const original = files[entryOf(frame.hash)];
    if (!original) throw new Problem(`“${file}” lacks the original of “${frame.file}”. Open another copy.`);
    originals.set(frame.hash, original);
  }
  return { project, originals, preview: files['preview.jpg'] };
}
