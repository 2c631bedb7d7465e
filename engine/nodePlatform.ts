import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { codecPlatform } from './codecPlatform';
import { type Platform } from './platform';

const find = createRequire(import.meta.url);
const compile = (file: string) => async (): Promise<WebAssembly.Module> =>
  WebAssembly.compile(await readFile(find.resolve(`@jsquash/${file}`)));

/** Codecs and colour engine from where the package manager put them. Camera raw is developed in the browser only. */
export function nodePlatform(): Platform {
  return codecPlatform({
    modules: {
      jpeg: compile('jpeg/codec/dec/mozjpeg_dec.wasm'),
      jpegEncoder: compile('jpeg/codec/enc/mozjpeg_enc.wasm'),
      webp: compile('webp/codec/dec/webp_dec.wasm'),
      avif: compile('avif/codec/dec/avif_dec.wasm'),
      jxl: compile('jxl/codec/dec/jxl_dec.wasm'),
    },
    loadLcms: async () => (await import('lcms-wasm')).instantiate(),
    loadTurbo: async () => (await import('@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs')).default(),
    // from the project's folder: the command line never asks
    readStrip: (file) => readFile(`scene/renders/${file}`).catch(() => undefined),
  });
}
