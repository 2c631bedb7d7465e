// Packages whose WebAssembly glue a bundler cannot take apart are served as they are, from public/vendor/.
import { cp, mkdir, readFile, rm, writeFile } from 'node:fs/promises';

const root = new URL('../', import.meta.url);

export async function vendor() {
  const to = new URL('public/vendor/', root);
  await rm(to, { recursive: true, force: true });
  await mkdir(to, { recursive: true });
  const take = (from, where, skip) =>
    cp(new URL(`node_modules/${from}/`, root), new URL(`${where}/`, to), {
      recursive: true,
      filter: (path) => !skip.test(path),
    });
  await take('libraw-wasm/dist', 'libraw', /\.(map|d\.ts)$/);
  await take('lcms-wasm/dist', 'lcms/dist', /\.map$|\.min\.js$/);
  await take('lcms-wasm/lib', 'lcms/lib', /\.txt$/);
  // this glue is a script, not a module: it is served as one
  const turbo = new URL('node_modules/@cornerstonejs/codec-libjpeg-turbo-8bit/dist/', root);
  const served = new URL('turbo/', to);
  await mkdir(served);
  await cp(new URL('libjpegturbowasm.wasm', turbo), new URL('libjpegturbowasm.wasm', served));
  const glue = await readFile(new URL('libjpegturbowasm.js', turbo), 'utf8');
  await writeFile(new URL('libjpegturbowasm.mjs', served), `${glue}\nexport default libjpegturbowasm;\n`);
}
