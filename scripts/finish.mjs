// Finishes the demo sets anew, all or those that are named: npm run demo:finish
import { fileURLToPath } from 'node:url';
import { bundle, CLI_ENTRIES } from './bundle.mjs';

await bundle({ ...CLI_ENTRIES, finishDemos: 'scripts/finishDemos.ts' });
const { finishDemos } = await import('../dist/finishDemos.mjs');
await finishDemos(fileURLToPath(new URL('..', import.meta.url)), process.argv.slice(2));
