import { expect, test } from '@jest/globals';
import { loadRareFormats, RARE_FORMATS } from './rareFormats';

test.each(Object.entries(RARE_FORMATS))('%s is loaded by its own name', async (name, load) => {
  expect(await load()).toHaveProperty(name, expect.any(Function));
});

test('all of them are loaded beforehand without complaint', async () => {
  await expect(loadRareFormats()).resolves.toBeUndefined();
});
