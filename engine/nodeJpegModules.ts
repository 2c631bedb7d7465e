import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { type JpegModules } from './jpegPlatform';

/** Compiles the JPEG codec's modules from where the package manager put them. */
export async function nodeJpegModules(): Promise<JpegModules> {
  const find = createRequire(import.meta.url);
  const compile = async (file: string): Promise<WebAssembly.Module> =>
    WebAssembly.compile(await readFile(find.resolve(`@jsquash/jpeg/codec/${file}`)));
  return { decoder: await compile('dec/mozjpeg_dec.wasm'), encoder: await compile('enc/mozjpeg_enc.wasm') };
}
