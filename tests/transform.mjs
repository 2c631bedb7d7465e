// Compiles TypeScript for Jest with swc, and binds the language's own globals in every module: in the test runner's sandbox each
// look-up of a global is an intercepted call, which makes heavy computation many times slower.
import swcJest from '@swc/jest';

const NAMES = [
  'Math',
  'Number',
  'Object',
  'Array',
  'Map',
  'Set',
  'JSON',
  'Promise',
  'DataView',
  'ArrayBuffer',
  'Int32Array',
  'Uint32Array',
  'Uint8Array',
  'Uint16Array',
  'Uint8ClampedArray',
  'Float32Array',
  'Float64Array',
  'Infinity',
  'NaN',
];
const bind = (code) => {
  const free = NAMES.filter(
    (name) => !new RegExp(`\\b(const|let|var|class|function|import)\\s+${name}\\b`).test(code),
  );
  return `${free.map((name) => `const ${name} = globalThis.${name};`).join('')}${code}`;
};

export default {
  createTransformer: (options) => {
    const swc = swcJest.createTransformer(options);
    const bound = (result) => ({ ...result, code: bind(result.code) });
    return {
      ...swc,
      process: (...args) => bound(swc.process(...args)),
      processAsync: async (...args) => bound(await swc.processAsync(...args)),
    };
  },
};
