import { expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { randomSource } from '@/core/raster/random';
import { nodePlatform } from './nodePlatform';

const file = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../tests/files/${name}`, import.meta.url)));

test('the decoder of plain files gives the very samples of the other one, and leaves to it what it cannot read', async () => {
  const { decodeJpeg } = nodePlatform();
  const bytes = file('progressive.jpg');
  const [plain, usual] = [await decodeJpeg(bytes, 'plain'), await decodeJpeg(bytes, 'other')];
  expect([plain.channels, usual.channels]).toEqual([3, 4]);
  let differing = 0;
  for (let i = 0, o = 0; i < plain.data.length; i += 3, o += 4)
    for (let c = 0; c < 3; c++) if (plain.data[i + c] !== usual.data[o + c]) differing++;
  expect(differing).toBe(0);
  // a grey one has one component
  expect((await decodeJpeg(file('grey.jpg'), 'plain')).channels).toBe(4);
});

test('after damaged files, which leave it in the middle of its work, it decodes as before', async () => {
  const { decodeJpeg } = nodePlatform();
  const bytes = file('wide98.jpg');
  const before = (await decodeJpeg(bytes, 'plain')).data.slice();
  const random = randomSource(4);
  let refused = 0;
  for (let k = 0; k < 60; k++) {
    const damaged = bytes.slice(0, k % 3 === 0 ? Math.floor(bytes.length * random()) : bytes.length);
    for (let n = 0; n < 6; n++)
      damaged[2 + Math.floor((damaged.length - 2) * random())] = Math.floor(256 * random());
    await decodeJpeg(damaged, 'plain').catch(() => refused++);
  }
  expect(refused).toBeGreaterThan(5);
  const after = (await decodeJpeg(bytes, 'plain')).data;
  expect(after.length).toBe(before.length);
  expect(after.findIndex((v, i) => v !== before[i])).toBe(-1);
});
