import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { benchPage, mergedBracket } from './bench';

test.describe.configure({ timeout: 120_000 });

test('the sky is found without a dab, its edge told, and its region goes into a file and comes back from it', async ({
  page,
}) => {
  await page.goto('/bench?project=demo-swap');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Layers');
  await page.getByRole('radio', { name: 'Where' }).click();
  await page.getByRole('button', { name: 'The sky' }).click();
  await expect(page.getByText(/The sky is found, \d+ % sure|This may be the sky: \d+ % sure/)).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText(/the thing under \d+ dabs/).first()).toBeVisible();
  await page.getByRole('button', { name: /^Its edge/ }).click();
  await expect(page.getByText(/The picture’s own edge there goes over [\d.]+ px/)).toBeVisible({
    timeout: 60_000,
  });
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it as a file' }).click();
  const file = await (await saving).path();
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ marsh: 'region', version: 1 });
  await page.getByRole('button', { name: 'Reveal all' }).click();
  await expect(page.getByText('Everywhere', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Add a part' }).click();
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: 'From a file …' }).click();
  await (await choosing).setFiles(file);
  await expect(page.getByText(/the thing under \d+ dabs/).first()).toBeVisible();
});

test('a brush that stays on what it started on, and a part that is like a place, by pointer and by keyboard', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await bench.go('Layers');
  await page.getByRole('radio', { name: 'Where' }).click();
  await page.getByRole('button', { name: 'Hide all' }).click();
  await page.getByRole('checkbox', { name: 'Stays on what it started on' }).focus();
  await page.keyboard.press('Space');
  await bench.drag([0.12, 0.12], [0.3, 0.1], [0.38, 0.14]);
  await expect(page.getByRole('button', { name: '1 stroke', exact: true })).toBeVisible();
  await page.getByRole('button', { name: '1 stroke', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Take out stroke 1, “Reveal, inside”' })).toBeVisible();
  await page.getByRole('button', { name: 'Hide all' }).click();
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Like a place' }).click();
  await bench.drag([0.45, 0.45], [0.45, 0.45]);
  await expect(page.getByRole('button', { name: /it is as at the mark/ })).toBeVisible();
  await page.getByRole('checkbox', { name: 'In any light' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /it is as at the mark, in any light/ })).toBeVisible();
});
