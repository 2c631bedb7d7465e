import { readdirSync, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { randomSource } from '@/core/raster/random';
import { nodePool } from '@/engine/nodePool';
import { hostileFiles } from './hostileFiles';
import { hostileProjects } from './hostileProjects';
import { judgeProject } from './judgeProject';
import { mutateBytes } from './mutateBytes';
import { type FileResult, runFile } from './runFiles';

const FOLDER = 'tests/files';

/** Looks at mutated and hostile files, every `of`th from `part` on, and prints one result a line. */
async function files(count: number, seed: number, part: number, of: number): Promise<void> {
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url), 1);
  const whole = readdirSync(FOLDER)
    .filter((name) => !name.endsWith('.md'))
    .map((name) => ({ name, bytes: new Uint8Array(readFileSync(`${FOLDER}/${name}`)) }));
  const print = (result: FileResult): void => void process.stdout.write(`${JSON.stringify(result)}\n`);
  // what a worker grows to by itself is not the first file's
  await runFile(pool, whole[0].name, whole[0].bytes);
  if (part === 0) for (const { name, bytes } of hostileFiles()) print(await runFile(pool, name, bytes));
  for (let k = part; k < count; k += of) {
    const { name, bytes } = whole[k % whole.length];
    print(await runFile(pool, name, mutateBytes(bytes, randomSource(seed * 1_000_003 + k))));
  }
  pool.close();
}

/** Opens hostile project files and prints one result a line. */
async function projects(count: number, seed: number): Promise<void> {
  let k = 0;
  for await (const packed of hostileProjects(count, seed)) {
    const { outcome, ms, said } = await judgeProject(packed);
    process.stdout.write(`${JSON.stringify({ name: `project ${k++}`, outcome, ms, mb: 0, said })}\n`);
  }
}

const { values } = parseArgs({
  options: {
    what: { type: 'string', default: 'files' },
    count: { type: 'string', default: '300' },
    seed: { type: 'string', default: '1' },
    part: { type: 'string', default: '0' },
    of: { type: 'string', default: '1' },
  },
});
const [count, seed, part, of] = [values.count, values.seed, values.part, values.of].map(Number);
await (values.what === 'projects' ? projects(count, seed) : files(count, seed, part, of));
process.exit(0);
