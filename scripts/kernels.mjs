// Compiles core/kernels/assembly to WebAssembly and writes it, as text, into core/kernels/kernelBytes.ts: npm run kernels
import asc from 'assemblyscript/dist/asc.js';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** @returns the module's bytes */
export async function compileKernels() {
  let bytes;
  const { error, stderr } = await asc.main(
    [
      'core/kernels/assembly/index.ts',
      '--outFile',
      'kernels.wasm',
      '--runtime',
      'stub',
      '--noAssert',
      '--optimizeLevel',
      '3',
      '--shrinkLevel',
      '0',
      '--converge',
      '--enable',
      'simd',
      '--baseDir',
      root,
    ],
    { writeFile: (name, contents) => void (name.endsWith('.wasm') && (bytes = contents)) },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  return bytes;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = Buffer.from(await compileKernels()).toString('base64');
  const lines = text.match(/.{1,110}/g).map((line) => `  '${line}',`);
  writeFileSync(
    `${root}core/kernels/kernelBytes.ts`,
    `/** The compiled kernels, base64. Made by “npm run kernels” from assembly/; do not edit. */\nexport const KERNEL_BYTES = [\n${lines.join('\n')}\n].join('');\n`,
  );
  console.log(`kernels: ${text.length} characters`);
}
