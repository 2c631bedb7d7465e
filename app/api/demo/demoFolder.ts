import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { array, object, string } from 'yup';

const FOLDER = join(process.cwd(), 'demo', 'frames');

const manifest = object({
  title: string().required(),
  files: array(
    string()
      .matches(/^[\w-]+\.jpg$/)
      .required(),
  ).required(),
});

/** Title and file names of the demo set, as its camera wrote them; undefined when it has not been shot. */
export async function demoManifest(): Promise<{ title: string; files: string[] } | undefined> {
  try {
    return manifest.validateSync(JSON.parse(await readFile(join(FOLDER, 'manifest.json'), 'utf8')));
  } catch {
    return undefined;
  }
}

/** The bytes of a file of the demo set; undefined for any other name. */
export async function demoFile(name: string): Promise<Buffer | undefined> {
  const known = await demoManifest();
  return known?.files.includes(name) ? readFile(join(FOLDER, name)) : undefined;
}
