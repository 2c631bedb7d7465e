import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { array, object, string, type InferType } from 'yup';

const FOLDER = join(process.cwd(), 'demo', 'frames');

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
