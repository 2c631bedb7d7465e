import { strToU8, type Zippable, zipSync } from 'fflate';

/** What a project file holds. */
export interface ProjectParts {
  /** written as JSON */
  readonly project: unknown;
  /** original files by hash */
  readonly originals: ReadonlyMap<string, Uint8Array>;
  /** the finished picture, small, JPEG */
  readonly preview?: Uint8Array;
}

/** Where the original of a frame lies in a project file. */
export const entryOf = (hash: string): string => `originals/${hash}`;

/** a zip knows no years before (APPNOTE.TXT, 4.4.6) */
const FIRST_DATE = new Date(1980, 0, 1, 12);

/**
 * Packs a project: a zip of `project.json`, `originals/HASH` (stored as they are) and `preview.jpg`.
 * @param written the date of its files
 */
export function packProject(
  { project, originals, preview }: ProjectParts,
  written?: Date,
): Uint8Array<ArrayBuffer> {
  const files: Zippable = { 'project.json': [strToU8(JSON.stringify(project, undefined, 1)), { level: 6 }] };
  for (const [hash, bytes] of originals) files[entryOf(hash)] = [bytes, { level: 0 }];
  if (preview) files['preview.jpg'] = [preview, { level: 0 }];
  const year = written?.getFullYear() ?? 0;
  return zipSync(files, { mtime: written && year >= 1980 && year < 2100 ? written : FIRST_DATE });
}
