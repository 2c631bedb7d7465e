import { expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
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
