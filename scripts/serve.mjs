// Starts the production server on a free port and waits until it answers.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

const free = (port) =>
  new Promise((resolve) => {
    const probe = createServer()
      .once('error', () => resolve(false))
      .once('listening', () => probe.close(() => resolve(true)))
      .listen(port, '127.0.0.1');
  });

/** @returns the server's process and its address */
export async function serve(first = Number(process.env.PORT ?? 3000)) {
  let port = first;
  while (!(await free(port))) port++;
  const server = spawn(
    process.execPath,
    [`${root}scripts/server.mjs`, '-H', '127.0.0.1', '-p', String(port)],
    {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
    },
  );
  const address = `http://127.0.0.1:${port}`;
  for (;;) {
    if (server.exitCode !== null) {
      console.error('The server ended before it answered; its reason stands above.');
      process.exit(1);
    }
    const answer = await fetch(`${address}/api/health`).catch(() => undefined);
    if (answer?.ok) return { server, address };
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
}
