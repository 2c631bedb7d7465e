// Builds the production application.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { vendor } from './vendor.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Runs a command in the project's folder; ends the process with a sentence when it fails. */
export function run(command, args, { env = {}, timeout } = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    timeout,
  });
  if (error || status !== 0) {
    console.error(`“${command} ${args.join(' ')}” failed${error ? `: ${error.message}` : ''}.`);
    process.exit(1);
  }
}

export async function build() {
  await vendor();
  run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], { timeout: 600_000 });
  // it needs packages, which are not there before they are installed
  const { offline } = await import('./offline.mjs');
  await offline();
}

const PARTS = [
  'app',
  'camera',
  'core',
  'engine',
  'stations',
  'store',
  'ui',
  'package-lock.json',
  'next.config.ts',
  'proxy.ts',
  'scripts/offline.mjs',
];

/** Latest change below a path. */
function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return readdirSync(path).reduce((latest, name) => Math.max(latest, newest(`${path}/${name}`)), 0);
}

/** Builds unless the last build is newer than everything it is made from. */
export async function buildIfStale() {
  const mark = `${root}.next/BUILD_ID`;
  const whole = existsSync(mark) && existsSync(`${root}public/sw.js`);
  if (whole && PARTS.every((part) => newest(root + part) < statSync(mark).mtimeMs)) return;
  await build();
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await build();
