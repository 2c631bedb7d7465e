import { expect, type Page, test } from '@playwright/test';
import { decode } from 'fast-png';
import { smallBracket, type SmallFile } from '@/tests/smallBracket';
import { benchPage, type BenchPage, downloaded } from './bench';

test.describe.configure({ timeout: 240_000 });

const SIZE: [number, number] = [300, 200];

/** Frames of one view under names of their own. */
async function framesOf(seed: number, name: string, count = 3): Promise<SmallFile[]> {
  const shots = await smallBracket(false, SIZE, seed);
  return shots.slice(3 - count).map((file, i) => ({ ...file, name: `${name}-${i}.jpg` }));
}

/** What is made into one picture: a bracket, the bracket of something else, and three pictures by themselves. */
async function parts() {
  return {
    bracket: await framesOf(81, 'mill'),
    second: await framesOf(45, 'sky'),
    plates: (await Promise.all([7, 19, 31].map((seed) => framesOf(seed, `plate-${seed}`, 1)))).flat(),
  };
}

const layers = (page: Page) => page.getByRole('grid', { name: 'Layers, far to near' }).getByRole('row');
const placed = (page: Page) => page.getByRole('status', { name: 'Where the pictures went' });

/** The picture that left, by its size and how far it reaches. */
async function delivered(page: Page): Promise<{ width: number; height: number; mean: number }> {
  const { bytes } = await downloaded(page, 'Deliver the picture');
  const { data, width, height } = decode(bytes);
  let sum = 0;
  for (const v of data) sum += v;
  return { width, height, mean: sum / data.length / 65535 };
}

async function quiet({ page, ready }: BenchPage): Promise<void> {
  await ready('Finish');
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
}

test('a bracket, a second set and three plates become one picture by pointer alone', async ({ page }) => {
  const { bracket, second, plates } = await parts();
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(bracket);
  await quiet(bench);
  await bench.go('Frames');
  await bench.choose(second);
  await expect(placed(page)).toContainText(/3 pictures/, { timeout: 60_000 });
  const own = placed(page).getByRole('button', { name: 'A set of their own' });
  if (await own.isVisible()) await own.click();
  else await placed(page).getByRole('button', { name: 'Well placed' }).click();
  await quiet(bench);
  await bench.choose(plates);
  await expect(placed(page)).toContainText(/3 pictures/, { timeout: 60_000 });
  const each = placed(page).getByRole('button', { name: 'Each by itself, as layers' });
  if (await each.isVisible()) await each.click();
  else await placed(page).getByRole('button', { name: 'Well placed' }).click();
  await quiet(bench);
  await bench.go('Layers');
  await expect(layers(page)).toHaveCount(5);
  // the second set is blended, a plate is moved by the hand, another is kept to an ellipse that is drawn
  await page.getByRole('row', { name: 'Layer Set 2' }).click();
  await page.getByRole('radio', { name: 'Layer', exact: true }).click();
  await page.getByRole('button', { name: /Blended by/ }).click();
  await page.getByRole('option', { name: 'Screen' }).click();
  await page.getByRole('row', { name: 'Layer plate-7-0' }).click();
  await page.getByRole('radio', { name: 'Place' }).click();
  const across = page.getByRole('slider', { name: 'Across' });
  const before = Number(await across.inputValue());
  await page.getByRole('button', { name: 'Move on the picture' }).click();
  await bench.drag([0.5, 0.5], [0.6, 0.55]);
  await expect.poll(async () => Number(await across.inputValue())).toBeGreaterThan(before + 0.03);
  await page.getByRole('row', { name: 'Layer plate-19-0' }).click();
  await page.getByRole('radio', { name: 'Where' }).click();
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Ellipse' }).click();
  await page.getByRole('button', { name: 'Draw it on the picture' }).click();
  await bench.drag([0.5, 0.5], [0.62, 0.6]);
  await expect(page.getByRole('group', { name: /Where: plate-19-0/ })).toContainText(/ellipse/i);
  await quiet(bench);
  await bench.go('Finish');
  const picture = await delivered(page);
  expect(picture.width).toBeGreaterThan(250);
  expect(picture.mean).toBeGreaterThan(0.1);
  expect(picture.mean).toBeLessThan(0.9);
});

/** Goes on with Tab until what is wanted has the focus. */
async function tabTo(page: Page, name: RegExp, most = 150): Promise<void> {
  for (let k = 0; k < most; k++) {
    await page.keyboard.press('Tab');
    const focused = await page.evaluate(() => {
      const own = document.activeElement;
      const label = own instanceof HTMLInputElement ? own.labels?.[0] : undefined;
      const named = document.getElementById(own?.getAttribute('aria-labelledby')?.split(' ')[0] ?? '');
      return own?.getAttribute('aria-label') ?? (named ?? label ?? own)?.textContent ?? '';
    });
    if (name.test(focused)) return;
  }
  throw new Error(`nothing called ${String(name)} can be reached`);
}

/** Finds a command by its name and gives it. */
async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press('f');
  await page.getByRole('searchbox', { name: 'Command' }).waitFor();
  await page.keyboard.type(words);
  await expect(page.getByRole('menuitem').first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

test('the same by keyboard alone', async ({ page }) => {
  const { bracket, second, plates } = await parts();
  await page.goto('/');
  await tabTo(page, /^New project/);
  await page.keyboard.press('Enter');
  const bench = benchPage(page);
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
  // one listener for all of them: the browser is told to hand its dialogs over once, not anew for each
  let wanted: readonly SmallFile[] = [];
  const given: Promise<void>[] = [];
  page.on('filechooser', (chooser) => void given.push(chooser.setFiles([...wanted])));
  const choose = async (files: readonly SmallFile[]): Promise<void> => {
    wanted = files;
    await tabTo(page, /^Choose files/);
    const before = given.length;
    await page.keyboard.press('Enter');
    await expect.poll(() => given.length).toBe(before + 1);
    await given[before];
  };
  const answer = async (name: RegExp): Promise<void> => {
    await expect(placed(page)).toContainText(/3 pictures/, { timeout: 60_000 });
    const buttons = placed(page).getByRole('button');
    const names = await buttons.evaluateAll((all) =>
      all.map((b) => b.getAttribute('aria-label') ?? b.textContent),
    );
    await tabTo(page, names.some((n) => name.test(n ?? '')) ? name : /^Well placed/);
    await page.keyboard.press('Enter');
  };
  await choose(bracket);
  await quiet(bench);
  await page.keyboard.press('1');
  await choose(second);
  await answer(/^A set of their own/);
  await quiet(bench);
  await page.keyboard.press('1');
  await choose(plates);
  await answer(/^Each by itself/);
  await quiet(bench);
  await page.keyboard.press('4');
  await expect(layers(page)).toHaveCount(5);
  // a plate is made smaller by its slider, and is kept to an ellipse that is added by its name
  await command(page, 'Layer plate-7-0');
  await expect(page.getByRole('row', { name: 'Layer plate-7-0' })).toHaveAttribute('aria-selected', 'true');
  await tabTo(page, /^Opacity/);
  for (let k = 0; k < 30; k++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('slider', { name: 'Opacity' })).toHaveValue('0.7');
  await command(page, 'Add a part where Layer plate-7-0: ellipse');
  await expect(page.getByRole('group', { name: /Where: plate-7-0/ })).toContainText(/ellipse/i);
  await command(page, 'Change exposure of Layer plate-7-0');
  await tabTo(page, /^Exposure/);
  await quiet(bench);
  await page.keyboard.press('7');
  const waiting = page.waitForEvent('download');
  await tabTo(page, /^Deliver the picture/);
  await page.keyboard.press('Enter');
  expect((await waiting).suggestedFilename()).toMatch(/\.png$/);
});
