import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { array, object, string, type InferType } from 'yup';

const FOLDER = join(process.cwd(), 'demo', 'frames');
const FINISHED = join(process.cwd(), 'demo', 'finished');

const manifest = object({
  sets: array(
    object({
      id: string()
        .matches(/^[\w-]+$/)
        .required(),
      title: string().required(),
      about: string().required(),
      task: string().required(),
      files: array(
        string()
          .matches(/^[\w-]+\.(jpg|png)$/)
          .required(),
      ).required(),
    }),
  ).required(),
});

/** The demo sets with their files, as the camera wrote them; undefined when they have not been shot. */
export async function demoManifest(): Promise<InferType<typeof manifest> | undefined> {
  try {
    return manifest.validateSync(JSON.parse(await readFile(join(FOLDER, 'manifest.json'), 'utf8')));
  } catch {
    return undefined;
  }
}

/** The bytes of a file of a demo set; undefined for any other name. */
export async function demoFile(name: string): Promise<Buffer | undefined> {
  const known = await demoManifest();
  return known?.sets.some((s) => s.files.includes(name)) ? readFile(join(FOLDER, name)) : undefined;
}

/** Ids of the sets that are there as a finished project too. */
export async function finishedSets(): Promise<readonly string[]> {
  const files = await readdir(FINISHED).catch(() => []);
  return files.flatMap((f) => (f.endsWith('.json') ? [f.slice(0, -'.json'.length)] : []));
}

/** The recipe or the small picture of a finished set; undefined for any other name. */
export async function finishedFile(name: string): Promise<Buffer | undefined> {
  const known = await finishedSets();
  return known.some((id) => name === `${id}.json` || name === `${id}.jpg`)
    ? readFile(join(FINISHED, name)).catch(() => undefined)
    : undefined;
}
