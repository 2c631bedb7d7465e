// Shoots the demo frames when they are missing or their plan has changed: npm run demo:shoot
import { fileURLToPath } from 'node:url';
import { bundle } from './bundle.mjs';

export async function shoot() {
  await bundle({ shoot: 'scripts/shootDemo.ts' });
  const { shootDemo } = await import('../dist/shoot.mjs');
  await shootDemo(fileURLToPath(new URL('..', import.meta.url)), console.log);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await shoot();
