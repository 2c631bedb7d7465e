// npm run demo: installs what is missing, shoots the demo frames, builds, starts the server and prints where to look.
import { buildIfStale } from './build.mjs';
import { installPackages } from './install.mjs';
import { serve } from './serve.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
await shoot();
await buildIfStale();

const { server, address } = await serve();
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
console.log(`Marsh runs. The demo project: ${address}/bench?project=demo   The shelf: ${address}/`);
