import { expect, test } from '@playwright/test';
import { benchPage } from './bench';

test.describe.configure({ timeout: 150_000 });

test('a walker is painted over and the wall behind is taken from another frame; by keyboard, from around it', async ({
  page,
}) => {
  await page.goto('/bench?project=demo-bracket');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Match');
  await page.getByRole('button', { name: /^Repair:/ }).click();
  await page.getByRole('button', { name: 'Paint what must go' }).click();
  await bench.drag([0.478, 0.42], [0.478, 0.51]);
  await expect(
    page.getByText(/^mill-0\d\.jpg shows what lies behind\. Beside it, both differ by [\d.]+ ΔE2000\.$/),
  ).toBeVisible({
    timeout: 30_000,
  });
  await expect(
    page.getByRole('button', { name: /^Repair: from another frame where 1 stroke/ }),
  ).toBeVisible();
  // what Marsh chose is no step of its own
  await expect(page.getByRole('button', { name: /^Take back: Revealed/ })).toBeEnabled();
  await page.getByRole('button', { name: 'Paint over it, then press here' }).click();

  await page.getByRole('button', { name: /Instead/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Repair: from around it/ })).toBeVisible();
  await page.getByRole('button', { name: 'Other pieces' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Looking for pieces that go on there.')).toBeHidden({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Let Marsh choose' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Repair: from another frame/ })).toBeVisible();
});
