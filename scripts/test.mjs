// npm test: sets itself up, then format, lint, types, unit tests, build and browser tests. Stops at the first that fails.
import { run } from './build.mjs';
import { findChromium, installPackages } from './install.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
const { buildIfStale } = await import('./build.mjs');
const node = (tool, ...args) => [process.execPath, [`node_modules/${tool}`, ...args]];
const timed = async (name, step) => {
  const start = Date.now();
  console.log(`\n— ${name}`);
  await step();
  console.log(`— ${name}: ${((Date.now() - start) / 1000).toFixed(0)} s`);
};

await timed('format', () => run(...node('prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.')));
await timed('lint', () => run(...node('eslint/bin/eslint.js', '.', '--max-warnings', '0')));
await timed('types', () => {
  run(...node('typescript/bin/tsc', '-p', 'tsconfig.json'));
  run(...node('typescript/bin/tsc', '-p', 'core/tsconfig.json'));
});
await timed('demo frames', shoot);
await timed('unit tests', () =>
  run(...node('jest/bin/jest.js'), {
    env: { NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning' },
  }),
);
await timed('build', () => buildIfStale());
await timed('browser tests', () => {
  const chromium = findChromium();
  run(...node('@playwright/test/cli.js', 'test'), { env: { CHROMIUM: chromium } });
});
