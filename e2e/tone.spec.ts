import { expect, test } from '@playwright/test';
import { mergedBracket } from './bench';

test('both ways of merging lie beside each other, and the other one can be taken', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Merge');
  await page.getByRole('button', { name: 'Show both beside each other' }).click();
  await expect(page.getByText('Radiance', { exact: true })).not.toHaveCount(0);
  await expect(page.getByText('Merging the other way')).toHaveCount(0, { timeout: 60_000 });
  await page.getByRole('radio', { name: 'Radiance' }).click();
  await page.getByRole('radio', { name: 'Result', exact: true }).click();
  await expect(page.getByRole('slider', { name: 'Pressed by' })).toBeVisible();
  await bench.ready('Proof');
  await page.getByText('Recover the response from the set').click();
  await expect(page.getByRole('button', { name: /Response off sRGB/ })).toBeVisible({ timeout: 60_000 });
});

test('a patch becomes neutral, a zone is lifted, and the record gives both back', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Match');
  await page.getByRole('button', { name: /^Neutral:/ }).click();
  await page.getByRole('button', { name: 'Sample what should be grey' }).click();
  await bench.drag([0.5, 0.5], [0.5, 0.5]);
  const codes = page.getByLabel('Codes of the patch');
  await expect(codes).toContainText('after');
  const numbers =
    ((await codes.textContent()) ?? '').match(/[RGB] [\d.]+/g)?.map((t) => Number(t.slice(2))) ?? [];
  expect(Math.max(...numbers.slice(3)) - Math.min(...numbers.slice(3))).toBeLessThan(1);
  expect(Math.max(...numbers.slice(0, 3)) - Math.min(...numbers.slice(0, 3))).toBeGreaterThan(2);

  await page.getByRole('button', { name: /^Zones:/ }).click();
  const rung = page.getByRole('slider', { name: 'Dark' });
  await rung.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('ArrowRight');
  await expect(rung).toHaveAttribute('aria-valuetext', /\+0\.5 EV/);
  await expect(page.getByRole('button', { name: /Cast of the neutral patch/ })).toBeVisible();
  await expect(bench.station('Match')).toContainText('tones moved');
  await page.getByRole('button', { name: 'All zones back' }).click();
  await expect(rung).toHaveAttribute('aria-valuetext', /0\.0 EV at/);

  await page.getByRole('button', { name: 'Record' }).click();
  const record = page.getByRole('dialog');
  await record.getByLabel('Search the record').fill('dark');
  await record
    .getByRole('button', { name: /Apply the settings of “Dark”/ })
    .first()
    .click();
  await page.keyboard.press('Escape');
  await expect(rung).toHaveAttribute('aria-valuetext', /\+0\.5 EV/);
});

test('lines set the picture straight, and the crop follows', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Finish');
  await page.getByRole('button', { name: 'Draw a level line' }).click();
  await bench.drag([0.3, 0.45], [0.7, 0.48]);
  await expect(page.getByText(/Turned by \+\d\.\d\d°/)).toBeVisible();
  await bench.ready('Proof');
  await expect(page.getByRole('button', { name: /Not seen by every frame/ })).toContainText('0.00 %');
  await page.getByRole('button', { name: 'As it was held' }).click();
  await expect(page.getByText(/Turned by/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Draw two uprights' }).click();
  await bench.drag([0.35, 0.7], [0.37, 0.3]);
  await bench.drag([0.65, 0.7], [0.63, 0.3]);
  await expect(page.getByText('Tilted until both lines stand.')).toBeVisible();
});

test('the proof judges, watch points stay in sight, a pixel is traced to its step', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Proof');
  await bench.ready('Proof');
  await expect(page.getByRole('button', { name: /Burnt areas/ })).toBeVisible();
  await page.getByRole('button', { name: 'Pin a watch point' }).click();
  await bench.drag([0.45, 0.5], [0.45, 0.5]);
  await expect(page.getByRole('button', { name: 'Watch point 1, go there' })).toBeVisible();
  await bench.go('Match');
  await page.getByRole('button', { name: /^Saturation:/ }).click();
  const saturation = page.getByRole('slider', { name: 'Saturation' });
  await saturation.fill('0');
  await page.keyboard.press('t');
  const box = await bench.table.boundingBox();
  if (!box) throw new Error('no table');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  const card = page.getByRole('region', { name: 'Trace of a pixel' });
  await expect(card).toContainText('Saturation');
  await expect(card).toContainText(/ΔE \d+\.\d/);
  await expect(card.getByRole('button', { name: /moved it most: go there/ })).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.locator('[aria-current=step]')).toContainText(/Merge|Match|Frames|Finish/);
  await page.keyboard.press('b');
});

test('the fit is held on a drawn part', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Fit');
  await page.getByRole('button', { name: 'Draw the part that must fit' }).click();
  await bench.drag([0.35, 0.35], [0.6, 0.65]);
  await expect(page.getByText('Only the marked part is fitted; the rest may drift.')).toBeVisible();
  await bench.ready('Merge');
  await expect(bench.station('Fit')).toContainText('typical error');
});

test('three surrounds are chosen by command and kept', async ({ page }) => {
  await page.goto('/bench?project=demo');
  await page.getByRole('navigation', { name: 'Stations' }).waitFor();
  await page.keyboard.press('f');
  await page.keyboard.type('surround dim');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-surround', 'dim');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-surround', 'dim');
});
