// Packs the files of the present build into public/offline.bin, and bundles the service worker that knows where in it each lies.
import { build } from 'esbuild';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** media types (WHATWG MIME Sniffing; RFC 9239, 8081) */
const TYPES = {
  '.js': 'text/javascript',
  '.mjs': 'text/javascript',
  '.css': 'text/css',
  '.json': 'application/json',
  '.wasm': 'application/wasm',
  '.woff2': 'font/woff2',
  '.svg': 'image/svg+xml',
};

/** @returns paths of all files below a folder, relative to it */
async function filesIn(folder) {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((e) => e.isFile())
    .map((e) => `${e.parentPath ?? e.path}/${e.name}`.slice(folder.length + 1))
    .sort();
}

export async function offline() {
  const id = (await readFile(`${root}.next/BUILD_ID`, 'utf8')).trim();
  const files = [
    ...(await filesIn(`${root}.next/static`)).map((path) => [
      `/_next/static/${path}`,
      `.next/static/${path}`,
    ]),
    ...(await filesIn(`${root}public/vendor`)).map((path) => [`/vendor/${path}`, `public/vendor/${path}`]),
    // every browser that runs Marsh takes the newer form of a font
  ].filter(([address]) => !address.endsWith('.woff'));
  const places = {};
  const parts = [];
  let at = 0;
  for (const [address, path] of files) {
    const bytes = await readFile(root + path);
    const type = TYPES[extname(path)] ?? 'application/octet-stream';
    places[address] = { at, length: bytes.length, type };
    parts.push(bytes);
    at += bytes.length;
  }
  await writeFile(`${root}public/offline.bin`, Buffer.concat(parts));
  await build({
    absWorkingDir: root,
    entryPoints: ['app/offline/serviceWorker.ts'],
    outfile: 'public/sw.js',
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    define: { BUILD: JSON.stringify(id), FILES: JSON.stringify(places) },
    logLevel: 'error',
  });
}
