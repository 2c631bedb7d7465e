import { afterAll, expect, test } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { randomSource } from '@/core/raster/random';
import { inlinePool } from '@/tests/inlinePool';
import { hostileFiles } from './hostileFiles';
import { mutateBytes } from './mutateBytes';
import { BOUNDS, runFile } from './runFiles';

// the short form of `npm run gauntlet`; its figures stand in docs/reliability.md
const FOLDER = new URL('../tests/files/', import.meta.url);
const pool = inlinePool(1);
afterAll(() => pool.close());

test.each(hostileFiles().map(({ name, bytes }) => [name, bytes] as const))(
  '%s: a picture or a sentence, in bounded time and memory',
  async (name, bytes) => {
    const { outcome, ms, mb, said } = await runFile(pool, name, bytes);
    expect([name, outcome, said]).toEqual([name, expect.stringMatching(/opened|refused/), said]);
    expect(ms).toBeLessThan(BOUNDS.ms);
    expect(mb).toBeLessThan(BOUNDS.mb);
  },
);

test('two hundred mutated files of every format: a picture or a sentence each', async () => {
  const whole = readdirSync(FOLDER)
    .filter((name) => !name.endsWith('.md'))
    .map((name) => ({ name, bytes: new Uint8Array(readFileSync(new URL(name, FOLDER))) }));
  const outcomes: string[] = [];
  for (let k = 0; k < 200; k++) {
    const { name, bytes } = whole[k % whole.length];
    const { outcome, said } = await runFile(pool, name, mutateBytes(bytes, randomSource(4_000_037 + k)));
    expect([k, outcome, said]).toEqual([k, expect.stringMatching(/opened|refused/), said]);
    outcomes.push(outcome);
  }
  // neither all nor none of them can be read
  expect(outcomes.filter((o) => o === 'opened').length).toBeGreaterThan(20);
  expect(outcomes.filter((o) => o === 'refused').length).toBeGreaterThan(20);
});
