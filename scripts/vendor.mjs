// Packages whose WebAssembly glue a bundler cannot take apart are served as they are, from public/vendor/.
import { cp, mkdir, rm } from 'node:fs/promises';

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
}
