// npm run dev: the development server with the demo frames in place.
import { installPackages } from './install.mjs';
import { run } from './build.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
await shoot();
const { vendor } = await import('./vendor.mjs');
await vendor();
run(process.execPath, [
  'node_modules/next/dist/bin/next',
  'dev',
  '-H',
  '127.0.0.1',
  ...process.argv.slice(2),
]);
