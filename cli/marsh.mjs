#!/usr/bin/env node
// Starts the command line; bundles it first when it is missing or older than its sources.
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
  ['core', 'camera', 'engine', 'cli'].some((part) => newest(`${root}${part}`) > statSync(bundled).mtimeMs);

if (!existsSync(`${root}node_modules`)) {
  console.error('Marsh is not installed yet: run “npm ci” in its folder first.');
  process.exit(1);
}
if (stale()) {
  const { bundle, CLI_ENTRIES } = await import('../scripts/bundle.mjs');
  await bundle(CLI_ENTRIES);
}
const { main } = await import(bundled);
process.exitCode = await main(process.argv.slice(2));
