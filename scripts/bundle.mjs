// Bundles code that Node runs by itself (the command line and its workers) into dist/.
import { build } from 'esbuild';
import { rm } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** @param {Record<string, string>} entries name in dist/ → source file */
export async function bundle(entries) {
  // what is needed seldom is read at its first need: readers of rare files are three quarters of a worker's code
  const parts = `parts-${Object.keys(entries)[0]}`;
  await rm(`${root}dist/${parts}`, { recursive: true, force: true });
  await build({
    absWorkingDir: root,
    entryPoints: Object.entries(entries).map(([out, source]) => ({ in: source, out })),
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    chunkNames: `${parts}/[name]-[hash]`,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // they look for their own folders
    external: ['@techstark/opencv-js', 'lcms-wasm', '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs'],
    alias: { '@': root.replace(/\/$/, '') },
    // some packages are still CommonJS and ask for Node's own modules that way
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module';const require = requireFrom(import.meta.url);",
    },
    logLevel: 'error',
  });
}

export const CLI_ENTRIES = { marsh: 'cli/main.ts', 'node.worker': 'engine/node.worker.ts' };
