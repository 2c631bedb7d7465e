#!/usr/bin/env node
// Starts the command line; bundles it first when it is missing or older than its sources.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const bundled = `${root}dist/marsh.mjs`;

const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce(
      (latest, entry) =>
        Math.max(latest, statSync(`${entry.parentPath ?? entry.path}/${entry.name}`).mtimeMs),
      0,
    );

const stale = () =>
  !existsSync(bundled) ||
  ['core', 'camera', 'engine', 'store', 'cli'].some(
    (part) => newest(`${root}${part}`) > statSync(bundled).mtimeMs,
  );

if (!existsSync(`${root}node_modules`)) {
  console.error('installing packages');
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    // standard output belongs to the report
    stdio: ['ignore', 2, 2],
  });
  if (status !== 0) {
    console.error(
      'The packages could not be installed: run “npm ci” in Marsh’s folder and see what it says.',
    );
    process.exit(1);
  }
}
if (stale()) {
  const { bundle, CLI_ENTRIES } = await import('../scripts/bundle.mjs');
  await bundle(CLI_ENTRIES);
}

// glibc keeps what workers have freed after they ended, some hundred megabytes of a large set, unless it is told from which size on to give memory back
const THRESHOLD = 'MALLOC_MMAP_THRESHOLD_';
if (process.platform === 'linux' && !process.env[THRESHOLD]) {
  const env = { ...process.env, [THRESHOLD]: String(2 ** 20) };
  const child = spawn(process.execPath, [...process.execArgv, ...process.argv.slice(1)], {
    stdio: 'inherit',
    env,
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 1));
  // where it may not start again it works all the same, with more memory
  child.on('error', run);
} else await run();

async function run() {
  const { main } = await import(bundled);
  process.exitCode = await main(process.argv.slice(2));
}
