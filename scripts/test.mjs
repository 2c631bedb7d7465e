// npm test: sets itself up, then format, types, demo frames and unit tests with lint beside them, build and browser tests. Stops at the first that fails.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { run } from './build.mjs';
import { findChromium, installPackages } from './install.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
const { buildIfStale } = await import('./build.mjs');
const root = fileURLToPath(new URL('..', import.meta.url));
const node = (tool, ...args) => [process.execPath, [`node_modules/${tool}`, ...args]];
const running = new Set();
/** Runs a command while others go on; when it fails they end, and the process. */
const beside = (command, args, env = {}) =>
  new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
    running.add(child);
    child.on('close', (status) => {
      running.delete(child);
      if (status === 0) return done();
      console.error(`“${args.join(' ')}” failed.`);
      for (const other of running) other.kill();
      process.exit(1);
    });
  });
const timed = async (name, step) => {
  const start = Date.now();
  console.log(`\n— ${name}`);
  await step();
  console.log(`— ${name}: ${((Date.now() - start) / 1000).toFixed(0)} s`);
};

const lint = beside(...node('eslint/bin/eslint.js', '.', '--max-warnings', '0'));
await timed('format, types and demo frames', async () => {
  await beside(...node('prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'));
  await beside(...node('typescript/bin/tsc', '-p', 'tsconfig.json'));
  await beside(...node('typescript/bin/tsc', '-p', 'core/tsconfig.json'));
  await shoot();
});
await timed('unit tests', async () => {
  await beside(...node('jest/bin/jest.js'), {
    NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
  });
  await lint;
});
await timed('build', () => buildIfStale());
await timed('browser tests', () => {
  const chromium = findChromium();
  run(...node('@playwright/test/cli.js', 'test'), { env: { CHROMIUM: chromium } });
});
