// Sets up what a fresh clone lacks: the packages of the lock file, and a Chromium for the browser tests.
import { existsSync, statSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { run } from './build.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Installs the packages when they are missing or older than the lock file. */
export function installPackages() {
  const installed = `${root}node_modules/.package-lock.json`;
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync(`${root}package-lock.json`).mtimeMs)
    return;
  console.log('installing packages');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
}

const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** Finds Chromium, installs Debian's where it may, or says in one sentence what to do. @returns its path */
export function findChromium() {
  const named = process.env.CHROMIUM;
  if (named) return named;
  const found = () => BROWSERS.find((path) => existsSync(path));
  if (!found() && process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0) {
    console.log('installing Chromium from Debian');
    const apt = (...args) =>
      spawnSync('apt-get', args, {
        stdio: 'inherit',
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      });
    if (apt('install', '-y', '-qq', '--no-install-recommends', 'chromium').status !== 0) {
      apt('update', '-qq');
      apt('install', '-y', '-qq', '--no-install-recommends', 'chromium');
    }
  }
  const path = found();
  if (!path) {
    console.error(
      'The browser tests need Chromium: install Debian’s package “chromium”, or name one in CHROMIUM=/path/to/chromium.',
    );
    process.exit(1);
  }
  return path;
}
