import { expect, test } from '@playwright/test';
import { benchPage, downloaded, mergedBracket } from './bench';

test('lamps glow, light falls off round a subject, detail is weighed by its size, and half of it is one key', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await bench.go('Finish');
  await page.getByRole('button', { name: /^Glow:/ }).click();
  const glow = page.getByRole('slider', { name: 'Glow', exact: true });
  await glow.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('PageUp');
  await expect(page.getByRole('button', { name: /^Glow: 50 % of what is over \+1\.5 EV/ })).toBeVisible();
  // by pointer
  await page.getByRole('button', { name: /^Round a subject:/ }).click();
  await page.getByRole('button', { name: 'Draw round the subject' }).click();
  await bench.drag([0.4, 0.3], [0.75, 0.6]);
  await expect(page.getByRole('button', { name: /^Round a subject: −1 EV about it/ })).toBeVisible();
  await page.getByRole('button', { name: /^Detail by size:/ }).click();
  const fine = page.getByRole('slider', { name: 'Fine, 2 px' });
  await fine.focus();
  await page.keyboard.press('PageUp');
  const line = page.getByRole('button', { name: /^Detail by size: fine \+20 %/ });
  await expect(line).toBeVisible();
  // half of what is open, and off, by one key each
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: /^Detail by size: fine \+20 %, 50 %/ })).toBeVisible();
  // what is asked for seldom waits in a menu
  await page.getByRole('button', { name: 'Another change' }).click();
  await page.getByRole('menuitem', { name: 'Soft veil' }).click();
  const veil = page.getByRole('slider', { name: 'Veil' });
  await veil.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press('PageUp');
  await expect(page.getByRole('button', { name: /^Soft veil: 40 %, 20 px soft/ })).toBeVisible();
  await bench.ready('Proof');
  expect((await downloaded(page, 'Deliver the picture')).name).toMatch(/\.png$/);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Soft veil: 40 %/ })).toBeVisible({ timeout: 60_000 });
  // against any earlier state of the record
  await bench.ready('Proof');
  await page.getByRole('button', { name: 'Record' }).click();
  const compare = page.getByRole('button', { name: /^Compare with the picture after “Fine/ }).first();
  await compare.click();
  await expect(compare).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('radio', { name: 'Before' })).toBeChecked();
  await page.getByRole('radio', { name: 'Finished' }).click();
  // what is not so bright anywhere does not glow: the edit does nothing, and is offered to be taken away
  await page.getByRole('button', { name: /^Glow:/ }).click();
  await page.getByRole('slider', { name: 'Glows from' }).focus();
  await page.keyboard.press('End');
  await expect(page.getByText(/^Glow.*changes? nothing that can be seen/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Take away what does nothing' }).click();
  await expect(page.getByRole('button', { name: 'Glow: not changed' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Soft veil: 40 %/ })).toBeVisible();
});

test('water is smoothed over the frames of its set, and along its streaks', async ({ page }) => {
  await page.goto('/bench?project=demo-moments');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Finish');
  await page.getByRole('button', { name: 'Another change' }).click();
  await page.getByRole('menuitem', { name: 'Over time' }).click();
  await page.getByRole('button', { name: 'Mean of all frames' }).click();
  await expect(page.getByRole('button', { name: /^Over time: the mean of all frames/ })).toBeVisible();
  await page.getByRole('button', { name: 'Along its streaks' }).click();
  const reach = page.getByRole('slider', { name: 'Reach' });
  await reach.focus();
  await page.keyboard.press('PageUp');
  await expect(page.getByRole('button', { name: /^Over time: along its streaks, \d+ px/ })).toBeVisible();
  await bench.ready('Proof');
});
