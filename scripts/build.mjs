// Builds the production application; leaves it alone when it is newer than its sources.
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...options.env },
    timeout: options.timeout,
  });
  if (error || status !== 0) {
    console.error(`“${command} ${args.join(' ')}” failed${error ? `: ${error.message}` : ''}.`);
    process.exit(1);
  }
}

export const next = (...args) => run(process.execPath, [`${root}node_modules/next/dist/bin/next`, ...args], { timeout: 600_000 });

if (process.argv[1] === fileURLToPath(import.meta.url)) next('build');
