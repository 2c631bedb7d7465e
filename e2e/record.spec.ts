import { expect, test } from '@playwright/test';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { smallBracket } from '@/tests/smallBracket';
import { mergedBracket } from './bench';

test('a reload in the middle comes back where it was, and undo reaches over it', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
  await page.getByRole('menuitem', { name: /Frame 1/ }).click();
  await bench.drag([0.3, 0.4], [0.6, 0.6]);
  await page.getByRole('radio', { name: 'Mask' }).click();
  const layer = page.getByRole('row', { name: 'Layer shot-0' });
  await expect(layer).toContainText('1 stroke');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();

  await page.reload();
  await expect(layer).toContainText('1 stroke');
  await expect(page.getByRole('radio', { name: 'Mask' })).toBeChecked();
  await bench.ready('Finish');

  await page.keyboard.press('Control+z');
  await expect(layer).toContainText('nothing painted yet');
  await page.keyboard.press('Control+Shift+z');
  await expect(layer).toContainText('1 stroke');
  await page.getByRole('button', { name: /^Take back/ }).click();
  await page.getByRole('button', { name: /^Take back/ }).click();
  await expect(layer).toHaveCount(0);
  // even the frames can be taken back, and come again
  await page.getByRole('button', { name: 'Take back: Added 3 frames' }).click();
  await expect(page.getByText('Drop the shots of one picture')).toBeVisible();
  await page.getByRole('button', { name: /^Do again/ }).click();
  await bench.ready('Merge');
});

test('files dropped on the bench join the project', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('button', { name: 'Choose files' }).waitFor();
  const folder = await mkdtemp(join(tmpdir(), 'marsh-drop-'));
  const files = await Promise.all(
    (await smallBracket()).map(async ({ name, buffer }) => {
      await writeFile(join(folder, name), buffer);
      return join(folder, name);
    }),
  );
  // real files of the system, dragged by the browser itself: what a script makes up is not taken for a file
  const browser = await page.context().newCDPSession(page);
  const data = { items: [], files, dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const)
    await browser.send('Input.dispatchDragEvent', { type, x: 560, y: 300, data });
  await expect(page.getByRole('button', { name: /Frame [123],/ })).toHaveCount(3);
});

test('one bad file among good ones is named, the others load', async ({ page }) => {
  await mergedBracket(page, [
    { name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('these are notes') },
    { name: 'empty.png', mimeType: 'image/png', buffer: Buffer.alloc(0) },
  ]);
  const sentences = page.getByRole('main').getByRole('alert');
  await expect(sentences).toContainText('“notes.jpg” is not a picture that Marsh reads');
  await expect(sentences).toContainText('“empty.png” is empty.');
  await page.keyboard.press('1');
  await expect(page.getByRole('button', { name: /Frame [123],/ })).toHaveCount(3);
});

test('projects lie on the shelf under their titles until they are taken off', async ({ page }) => {
  await mergedBracket(page);
  await page.getByLabel('Title of the project').fill('Gull island');
  await page.keyboard.press('Enter');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'marsh' }).click();
  await expect(page.getByRole('link', { name: /Gull island/ })).toContainText('3 frames');
  await page.getByRole('button', { name: 'Take “Gull island” off the shelf' }).click();
  await expect(page.getByRole('link', { name: /Gull island/ })).toHaveCount(0);
});

test('a merge can be cancelled and started again', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Fit');
  await page.getByRole('radio', { name: 'Perspective' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Stopped.')).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await bench.ready('Fit');
  await bench.ready('Merge');
});
