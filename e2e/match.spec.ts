import { expect, test } from '@playwright/test';
import { smallBracket } from '@/tests/smallBracket';
import { benchPage, downloaded, mergedBracket } from './bench';

test.describe.configure({ timeout: 240_000 });

test('a picture is made like another, taken back by half, and delivered', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Frames');
  const [, , light] = await smallBracket(false, [300, 200], 31);
  await bench.choose([{ ...light, name: 'evening.jpg' }]);
  const placed = page.getByRole('status', { name: 'Where the pictures went' });
  await expect(placed).toContainText('evening.jpg', { timeout: 60_000 });
  const each = placed.getByRole('button', { name: /by itself/ });
  await ((await each.isVisible()) ? each : placed.getByRole('button', { name: 'Well placed' })).click();
  await bench.ready('Finish');
  await bench.go('Match');
  await page.getByRole('button', { name: /^Like another/ }).click();
  await page.getByRole('button', { name: /Make it like/ }).click();
  await page.getByRole('menuitem', { name: 'evening.jpg' }).click();
  const table = page.getByRole('table', { name: 'Beside evening.jpg' });
  await expect(table).toBeVisible({ timeout: 60_000 });
  const values = async (): Promise<number[]> =>
    (
      await table
        .getByRole('row', { name: /^Tone by tone/ })
        .getByRole('cell')
        .allInnerTexts()
    ).map(Number);
  const [before, after] = await values();
  expect(after).toBeLessThan(before);
  await page.getByRole('button', { name: 'Half as much' }).click();
  await expect(page.getByRole('slider', { name: 'Brightness' })).toHaveValue('0.5');
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
  // a reload comes back to the same
  await page.reload();
  await benchPage(page).ready('Finish');
  await expect(page.getByRole('button', { name: /^Like another: like evening.jpg/ })).toBeVisible();
  await bench.go('Finish');
  expect((await downloaded(page, 'Deliver the picture')).name).toMatch(/\.png$/);
});
