import { expect, test } from '@playwright/test';
import { downloaded, mergedBracket } from './bench';

test('two tabs never write one project: the second asks, and takes over', async ({ context, page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.waitForURL(/project=/);
  await page.getByLabel('Title of the project').fill('Gull island');
  await page.keyboard.press('Enter');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByRole('main')).toContainText('open in another tab');
  await second.getByRole('button', { name: 'Work on it here' }).click();
  await expect(second.getByLabel('Title of the project')).toHaveValue('Gull island');
  await expect(page.getByRole('main')).toContainText('taken over by another tab');
  await second.close();
  await page.getByRole('button', { name: 'Work on it here' }).click();
  await expect(page.getByLabel('Title of the project')).toHaveValue('Gull island');
});

test('a full store is said, work goes on, and the project can be exported', async ({ page }) => {
  const bench = await mergedBracket(page);
  await page.evaluate(() => {
    const full = (): never => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    IDBObjectStore.prototype.put = full;
    FileSystemFileHandle.prototype.createWritable = () =>
      Promise.reject(new DOMException('full', 'QuotaExceededError'));
  });
  await bench.go('Finish');
  await page.getByRole('slider', { name: 'Exposure' }).fill('0.5');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('no room left to save this project');
  await expect(page.getByText('not saved')).toBeVisible();
  await expect(page.getByRole('slider', { name: 'Exposure' })).toHaveValue('0.5');
  const packed = await downloaded(page, 'Save the project file');
  expect(packed.name).toMatch(/\.marsh\.zip$/);
  expect(packed.bytes.length).toBeGreaterThan(10_000);
});

test('where the database takes nothing, the recipe is kept as a file and is what opens again', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('Internal error.', 'UnknownError');
    };
  });
  await bench.go('Finish');
  await page.getByRole('slider', { name: 'Exposure' }).fill('0.5');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('kept as a file beside it');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await bench.go('Finish');
  await expect(page.getByRole('slider', { name: 'Exposure' })).toHaveValue('0.5');
});
