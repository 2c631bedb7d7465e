import { expect, test } from '@playwright/test';
import { smallBracket } from '@/tests/smallBracket';
import { turnedFrames } from '@/tests/turnedFrames';
import { benchPage, downloaded, mergedBracket, mergedSet } from './bench';

test.describe.configure({ timeout: 240_000 });

test('a picture is made like one from a file, mended by marks, taken back by half, and delivered', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  const [, , light] = await smallBracket(false, [300, 200], 31);
  await bench.go('Match');
  await page.getByRole('button', { name: /^Like another/ }).click();
  await page.getByRole('button', { name: /Make it like/ }).click();
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: 'A picture from a file …' }).click();
  await (await choosing).setFiles([{ ...light, name: 'evening.jpg' }]);
  const table = page.getByRole('table', { name: 'Beside evening.jpg' });
  await expect(table).toBeVisible({ timeout: 60_000 });
  const values = async (): Promise<number[]> =>
    (
      await table
        .getByRole('row', { name: /Tone by tone/ })
        .getByRole('cell')
        .allInnerTexts()
    ).map(Number);
  const [before, after] = await values();
  expect(after).toBeLessThan(before);
  // looked at beside it, as ΔE, as if all were taken, and in greys
  await page.getByRole('radio', { name: 'Beside' }).click();
  await expect(page.getByRole('application', { name: 'Beside it: evening.jpg' })).toBeVisible();
  await page.getByRole('radio', { name: 'Apart' }).click();
  await expect(page.getByText('20 ΔE2000')).toBeVisible();
  await page.getByRole('radio', { name: 'As if there' }).click();
  await page.keyboard.press('l');
  await expect(page.getByLabel('Picture, Match').locator('canvas')).toHaveCSS('filter', /url/);
  await page.keyboard.press('l');
  await page.getByRole('radio', { name: 'Result' }).click();
  // it is no part of the picture
  await expect(bench.station('Layers')).toContainText('nothing painted in');
  const known = page.getByRole('group', { name: 'What is known of a place' });
  const marks = page.getByRole('list', { name: 'Marks' }).getByRole('listitem');
  await known.getByRole('button', { name: 'Kept' }).click();
  await bench.drag([0.3, 0.3], [0.3, 0.3]);
  await expect(marks).toHaveCount(1);
  await known.getByRole('button', { name: 'Like there' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Picture, Match').focus();
  for (const key of ['ArrowRight', 'Enter', 'Enter']) await page.keyboard.press(key);
  // what it is to look like is pressed on the other picture
  await expect(page.getByText('Now press what it is to look like.')).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Frame', exact: true })).toBeChecked();
  for (const key of ['ArrowLeft', 'Enter', 'Enter']) await page.keyboard.press(key);
  await expect(marks).toHaveCount(2);
  await expect(page.getByRole('radio', { name: 'Result' })).toBeChecked();
  await expect(page.getByRole('button', { name: /Farthest from its mark/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take mark 2 away' }).click();
  await expect(marks).toHaveCount(1);
  await page.getByRole('button', { name: 'Half as much' }).click();
  await expect(page.getByRole('slider', { name: 'Brightness' })).toHaveValue('0.5');
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
  // a reload comes back to the same
  await page.reload();
  await benchPage(page).ready('Finish');
  await expect(
    page.getByRole('button', { name: /^Like another: like evening.jpg, by 1 mark/ }),
  ).toBeVisible();
  await bench.go('Finish');
  expect((await downloaded(page, 'Deliver the picture')).name).toMatch(/\.png$/);
});

test('the colours of the mugs come from the chart behind them, found and pulled, and a hue of theirs is turned', async ({
  page,
}) => {
  await page.goto('/bench?project=demo-developments');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Match');
  await page.getByRole('button', { name: /^The set/ }).click();
  await page.getByRole('button', { name: /^Colour chart/ }).click();
  await page.getByRole('button', { name: 'Find the chart in it' }).click();
  const line = page.getByRole('button', { name: /^Colour chart: ΔE/ });
  await expect(line).toBeVisible({ timeout: 60_000 });
  const read = async (): Promise<number[]> => ((await line.innerText()).match(/\d+\.\d/g) ?? []).map(Number);
  const [before, after] = await read();
  expect(before).toBeGreaterThan(3);
  // under two lights at once; under one the bound is 1.5
  expect(after).toBeLessThan(2);
  await expect(page.getByRole('radio', { name: 'Frame', exact: true })).toBeChecked();
  await page.getByRole('button', { name: 'Pull its corners' }).click();
  await page.getByLabel('Picture, Match').focus();
  // the corner that is nearest to the middle is pulled down and away
  for (const key of ['Enter', 'Shift+ArrowDown', 'Shift+ArrowRight', 'Enter']) await page.keyboard.press(key);
  await expect.poll(read).not.toEqual([before, after]);
  await page.keyboard.press('Escape');
  await page.getByRole('radio', { name: 'Result' }).click();
  await page.getByRole('button', { name: /^Hues/ }).click();
  const rung = page.getByRole('slider', { name: /^Hue \d+°$/ }).first();
  await rung.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('button', { name: /^Hues: \d+° \+5°/ })).toBeVisible();
  await page.getByRole('button', { name: /^Tint line/ }).click();
  await page.getByRole('slider', { name: /^Tint at \+1/ }).focus();
  await page.getByRole('slider', { name: 'Strength' }).press('ArrowRight');
  await expect(page.getByRole('button', { name: /^Tint line: 50° 0.1 at \+1/ })).toBeVisible();
});

test('the odd frame of a panorama is named, and made like its neighbours', async ({ page }) => {
  const bench = await mergedSet(page, await turnedFrames(true));
  await bench.go('Match');
  await page.getByRole('button', { name: /^The set/ }).click();
  const row = page.getByRole('row', { name: /^turned-1\.jpg/ });
  await expect(row).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/turned-1\.jpg is .* a change of its own/)).toBeVisible();
  await row.getByRole('button', { name: 'Make alike' }).click();
  await expect(row.getByRole('button', { name: 'As shot' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('None is off by more than')).toBeVisible({ timeout: 60_000 });
  await bench.ready('Finish');
});

test('a plate is made like the evening about it', async ({ page }) => {
  await page.goto('/bench?project=demo-plates');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Match');
  await page.getByRole('button', { name: /^Layer boat/ }).click();
  await page.getByRole('button', { name: /^Like another/ }).click();
  await page.getByRole('button', { name: /Make it like/ }).click();
  await page.getByRole('menuitem', { name: 'what is about it' }).click();
  const table = page.getByRole('table', { name: 'Beside what is about it' });
  await expect(table).toBeVisible({ timeout: 60_000 });
  const middles = async (): Promise<number[]> =>
    (
      await table
        .getByRole('row', { name: /Middle/ })
        .getByRole('cell')
        .allInnerTexts()
    ).map((text) => Math.abs(Number(text.replace('−', '-').replace(/[^-\d.]/g, ''))));
  const [before, after] = await middles();
  expect(after).toBeLessThan(before);
  await expect(bench.station('Match')).not.toContainText('nothing changed');
});
