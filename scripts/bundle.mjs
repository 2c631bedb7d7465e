// Bundles code that Node runs by itself (the command line and its workers) into dist/.
import { build } from 'esbuild';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** @param {Record<string, string>} entries name in dist/ → source file */
export async function bundle(entries) {
  await build({
    absWorkingDir: root,
    entryPoints: Object.entries(entries).map(([out, source]) => ({ in: source, out })),
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    // what is needed seldom is read at its first need: readers of rare files are three quarters of a worker's code; parts are named by what they
    // hold and never deleted, as another process may be loading them
    splitting: true,
    chunkNames: 'parts/[name]-[hash]',
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
