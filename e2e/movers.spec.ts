import { expect, test } from '@playwright/test';
import { smallBracket } from '@/tests/smallBracket';
import { benchPage } from './bench';

test('a walker is found at each place, taken from one frame, and another frame can be chosen and taken back', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(await smallBracket(true));
  await bench.ready('Finish');
  await bench.go('Merge');
  const marks = page.getByRole('button', { name: /^Mover \d, from Frame 2$/ });
  await expect(marks).toHaveCount(3);
  await page.getByRole('button', { name: /Things that moved/ }).click();
  await expect(page.getByText('3 places show something that moved.')).toBeVisible();

  // back to the whole picture, then another frame for one place
  await page.keyboard.press('.');
  await marks.first().click();
  await page.getByRole('menuitem', { name: /Frame 3/ }).click();
  await expect(page.getByRole('button', { name: /^Mover \d, from Frame 3$/ })).toHaveCount(1, {
    timeout: 60_000,
  });
  await expect(marks).toHaveCount(2);
  await page.getByRole('button', { name: /^Take back/ }).click();
  await expect(marks).toHaveCount(3, { timeout: 60_000 });
});

test('a layer is kept to the lights of the merge, and its mask says so in the tray', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(await smallBracket());
  await bench.ready('Finish');
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
  await page.getByRole('menuitem', { name: /Frame 1/ }).click();
  await page.getByRole('button', { name: 'Reveal all' }).click();
  await page.getByRole('button', { name: /^Add a part/ }).click();
  await page.getByRole('menuitem', { name: 'Tones' }).click();
  await page.getByRole('slider', { name: 'From' }).fill('0');
  await expect(page.getByRole('row', { name: 'Layer shot-0' })).toContainText('where tones');
  await page.getByRole('button', { name: 'Turn inside out' }).click();
  await expect(page.getByRole('button', { name: 'Turn inside out' })).toHaveAttribute('aria-pressed', 'true');
});
