import { expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';

test('the compiled kernels and how they are called are what their sources say', () => {
  const { status, stderr } = spawnSync(process.execPath, ['scripts/kernels.mjs', '--check'], {
    encoding: 'utf8',
  });
  expect(stderr.slice(0, 500)).toBe('');
  expect(status).toBe(0);
}, 120_000);
