// Compiles core/kernels/assembly to WebAssembly and writes it, as text, into core/kernels/kernelBytes.ts, and how its functions are called
// into kernelCalls.ts: npm run kernels [-- --check]
import asc from 'assemblyscript/dist/asc.js';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { format, resolveConfig } from 'prettier';

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

/** The type of every function that the module offers, read off its sources. */
function calls() {
  const folder = `${root}core/kernels/assembly/`;
  const index = readFileSync(`${folder}index.ts`, 'utf8');
  const offered = [...index.matchAll(/export \{([^}]*)\} from '\.\/(\w+)'/g)].flatMap(([, names, file]) => {
    const source = readFileSync(`${folder}${file}.ts`, 'utf8');
    return names.split(',').map((name) => {
      const own = source.match(new RegExp(`export function ${name.trim()}\\(([^)]*)\\)\\s*:\\s*(\\w+)`));
      if (!own) throw new Error(`${file}.ts has no function “${name.trim()}”`);
      const [, given, gives] = own;
      const named = given
        .split(',')
        .filter((g) => g.trim() !== '')
        .map((g) => `${g.split(':')[0].trim()}: number`);
      return `readonly ${name.trim()}: (${named.join(', ')}) => ${gives === 'void' ? 'void' : 'number'};`;
    });
  });
  return `/**
 * What the compiled module offers; every pointer is a byte offset into its own memory. See assembly/ for the meaning of each. Made by “npm run
 * kernels” from there; do not edit.
 */
export interface KernelCalls {
${offered.join('\n')}
}
`;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = Buffer.from(await compileKernels()).toString('base64');
  const lines = text.match(/.{1,110}/g).map((line) => `  '${line}',`);
  const options = { ...(await resolveConfig(`${root}core/kernels/kernels.ts`)), parser: 'typescript' };
  const made = {
    'kernelBytes.ts': `/** The compiled kernels, base64. Made by “npm run kernels” from assembly/; do not edit. */\nexport const KERNEL_BYTES = [\n${lines.join('\n')}\n].join('');\n`,
    'kernelCalls.ts': await format(calls(), options),
  };
  const isCheck = process.argv.includes('--check');
  for (const [name, source] of Object.entries(made)) {
    const path = `${root}core/kernels/${name}`;
    if (!isCheck) writeFileSync(path, source);
    else if (readFileSync(path, 'utf8') !== source) {
      console.error(`${name} is not what assembly/ says: run “npm run kernels”.`);
      process.exitCode = 1;
    }
  }
  console.log(`kernels: ${text.length} characters`);
}
