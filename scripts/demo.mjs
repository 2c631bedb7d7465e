// npm run demo: installs what is missing, shoots the demo frames, builds, starts the server and prints where to look.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { buildIfStale } from './build.mjs';
import { installPackages } from './install.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

installPackages();
const { shoot } = await import('./shoot.mjs');
await shoot();
buildIfStale();

const free = (port) =>
  new Promise((resolve) => {
    const probe = createServer()
      .once('error', () => resolve(false))
      .once('listening', () => probe.close(() => resolve(true)))
      .listen(port, '127.0.0.1');
  });
let port = Number(process.env.PORT ?? 3000);
while (!(await free(port))) port++;

const server = spawn(
  process.execPath,
  [`${root}node_modules/next/dist/bin/next`, 'start', '-H', '127.0.0.1', '-p', String(port)],
  {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

for (;;) {
  const answer = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => undefined);
  if (answer?.ok) break;
  await new Promise((resolve) => setTimeout(resolve, 150));
}
console.log(
  `Marsh runs. The demo project: http://127.0.0.1:${port}/bench?project=demo   The shelf: http://127.0.0.1:${port}/`,
);
