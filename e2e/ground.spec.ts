import { expect, test } from '@playwright/test';
import { benchPage, downloaded } from './bench';

test.describe.configure({ timeout: 240_000 });

test('the heron stands in the dusk: in its space, its light, with its shadow, by keys too', async ({
  page,
}) => {
  await page.goto('/bench?project=demo-plates');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await bench.go('Ground');
  await expect(bench.station('Ground')).toContainText('5 as they came');
  await page.getByRole('button', { name: 'Lay the ground' }).click();
  await expect(bench.station('Ground')).toContainText('plates in the air 1');
  // the mill's walls and windows tell where the horizon is
  await expect(page.getByText(/^Told by \d+ upright and \d+ level lines: horizon ±/)).toBeVisible();
  await expect(page.getByRole('slider', { name: 'Horizon' })).toHaveValue(/0\.4[3-5]/);
  const plates = page.getByRole('region', { name: 'What is put in' });
  await plates
    .getByRole('button', { name: /^heron/ })
    .or(plates.getByText('heron'))
    .first()
    .click();
  const heron = plates.getByRole('button', { name: /heron/ });
  await expect(heron).toContainText('does not stand on the ground');
  await page.getByRole('button', { name: 'Make it belong', exact: true }).click();
  await expect(heron).toContainText(/belongs.* m away/, { timeout: 60_000 });
  await page.getByText('How this was told').click();
  await expect(page.getByText('Horizon: as it is set here')).toBeVisible();
  await expect(page.getByText(/^Light of the picture: assumed/)).toBeVisible();
  // where the horizon is, and how tall a heron: its size follows
  const horizon = page.getByRole('slider', { name: 'Horizon' });
  await horizon.focus();
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowRight');
  await expect(horizon).toHaveValue(/0\.4[56]/);
  await expect(page.getByText(/^Told by .*: leaning ±/)).toBeVisible();
  const tall = page.getByRole('textbox', { name: 'Its height' });
  await tall.fill('1.1');
  await page.keyboard.press('Enter');
  await expect(heron).toContainText('1.10 m tall');
  // the sun is put where it stands in the picture: the heron takes its light, and casts a shadow
  const from = page.getByRole('slider', { name: 'Sun from' });
  await from.focus();
  for (let k = 0; k < 40; k++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('40° left')).toBeVisible();
  await expect(page.getByRole('slider', { name: 'Its shadow' })).toHaveValue('1');
  await expect(heron).toContainText('is lit from elsewhere');
  await page.getByRole('button', { name: 'Take all of the light' }).click();
  await expect(heron).toContainText('belongs');
  // its foot is pulled nearer with the keys of the table, and it grows
  await page.getByRole('button', { name: 'Pull on the picture' }).click();
  const away = async (): Promise<number> => Number(/([\d.]+) m away/.exec(await heron.innerText())?.[1]);
  const before = await away();
  const box = await bench.table.boundingBox();
  const foot = await page.locator('svg path[d^="M"][fill="#fff"]').first().boundingBox();
  if (!box || !foot) throw new Error('its foot is not shown');
  const [x, y] = [foot.x + foot.width / 2 - box.x, foot.y + foot.height / 2 - box.y];
  await bench.drag([x / box.width, y / box.height], [x / box.width, (y - 40) / box.height]);
  await expect.poll(away).toBeGreaterThan(before);
  await expect(heron).toContainText('1.10 m tall');
  // before: as it came
  await page.getByRole('radio', { name: 'Before' }).click();
  await page.getByRole('radio', { name: 'Result' }).click();
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
  await page.reload();
  await expect(heron).toContainText('1.10 m tall', { timeout: 60_000 });
  await expect(bench.station('Finish')).not.toContainText('not made yet', { timeout: 120_000 });
  await bench.go('Finish');
  expect((await downloaded(page, 'Deliver the picture')).name).toMatch(/\.png$/);
});
