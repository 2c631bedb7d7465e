import { expect, type Page, test } from '@playwright/test';
import { decode, encode } from 'fast-png';
import { waves } from '@/tests/paint';
import { type SmallFile } from '@/tests/smallBracket';
import { type BenchPage, downloaded, mergedBracket } from './bench';

test.describe.configure({ timeout: 240_000 });

const SIZE = { width: 300, height: 200 };
/** of the thing, px, and how soft its edge is */
const RADIUS = 52;
const SOFT = 5;

/** A picture of something orange before a blue-green wall. */
function plate(): SmallFile {
  const wall = waves(17, 40);
  const { width, height } = SIZE;
  const data = new Uint8Array(3 * width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const r = Math.hypot(x - width / 2, y - height / 2);
      const share = Math.max(0, Math.min(1, (RADIUS - r) / SOFT + 0.5));
      const shade = wall(x, y);
      for (const v of [
        0.9 * share,
        0.5 * share + 0.4 * (1 - share) * shade,
        0.1 * share + 0.7 * (1 - share) * shade,
      ])
        data[o++] = Math.round(255 * v);
    }
  const png = encode({ ...SIZE, data, channels: 3 });
  return { name: 'lamp.png', mimeType: 'image/png', buffer: Buffer.from(png) };
}

/** The delivered picture, 0…1, and a look at its middle and beside it. */
async function delivered({ page, go, ready }: BenchPage) {
  await go('Finish');
  await ready('Finish');
  const { bytes } = await downloaded(page, 'Deliver the picture');
  const { data, width, height, channels } = decode(bytes);
  const at = (dx: number, dy: number): number[] => {
    const i = channels * (Math.round(height / 2 + dy) * width + Math.round(width / 2 + dx));
    return [data[i], data[i + 1], data[i + 2]].map((v) => v / 65535);
  };
  return { at };
}

const exact = (page: Page) => page.getByText('Cut out, soft edges');

async function withPlate(page: Page): Promise<BenchPage> {
  const bench = await mergedBracket(page);
  await bench.go('Frames');
  await bench.choose([plate()]);
  const placed = page.getByRole('status', { name: 'Where the pictures went' });
  await expect(placed).toContainText('lies over the picture', { timeout: 60_000 });
  await placed.getByRole('button', { name: 'Well placed' }).click();
  await bench.go('Layers');
  await page.getByRole('row', { name: 'Layer lamp' }).click();
  return bench;
}

test('a thing is lifted from a picture of its own by three dabs, and stands on another; by keyboard too', async ({
  page,
}) => {
  const bench = await withPlate(page);
  const shown = page.getByRole('checkbox', { name: 'Shown' });
  await shown.uncheck({ force: true });
  const under = await delivered(bench);
  await bench.go('Layers');
  await shown.check({ force: true });
  const covered = await delivered(bench);
  await bench.go('Layers');
  await page.getByRole('radio', { name: 'Where' }).click();
  await page.getByRole('button', { name: 'Lift it out' }).click();
  await bench.drag([0.47, 0.5], [0.53, 0.5]);
  await expect(page.getByRole('group', { name: /Where: lamp/ })).toContainText('the thing under 1 dab');
  await page.getByRole('radio', { name: 'Not this' }).click();
  await bench.drag([0.36, 0.42], [0.36, 0.56]);
  await bench.drag([0.62, 0.42], [0.62, 0.56]);
  await expect(exact(page)).toBeVisible({ timeout: 60_000 });
  const lifted = await delivered(bench);
  // the thing itself, and of its surroundings only what lies beneath
  lifted.at(0, 0).forEach((v, c) => expect(Math.abs(v - covered.at(0, 0)[c])).toBeLessThan(0.004));
  for (const [dx, dy] of [
    [-RADIUS - 30, 0],
    [RADIUS + 30, 0],
    [0, RADIUS + 20],
  ]) {
    const [now, bare, laid] = [lifted, under, covered].map((p) => p.at(dx, dy));
    now.forEach((v, c) => expect(Math.abs(v - bare[c])).toBeLessThan(0.02));
    expect(Math.max(...laid.map((v, c) => Math.abs(v - bare[c])))).toBeGreaterThan(0.03);
  }
  // a dab can be taken out, and taken back
  await bench.go('Layers');
  await page.getByRole('button', { name: /the thing under 3 dabs/ }).click();
  await page.getByRole('button', { name: 'Take out dab 3, “not this”' }).click();
  await expect(page.getByRole('button', { name: /the thing under 2 dabs/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /the thing under 3 dabs/ })).toBeVisible();
  // another thing of the same picture, by keyboard: the pointer of the keys starts in the middle, on it
  await page.keyboard.press('Escape');
  await page.keyboard.press('f');
  await page.getByRole('searchbox', { name: 'Command' }).fill('Add a part where Layer lamp: a thing');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await bench.table.focus();
  for (const key of ['Enter', 'ArrowRight', 'ArrowRight', 'Enter']) await page.keyboard.press(key);
  const where = page.getByRole('group', { name: /Where: lamp/ });
  await expect(where).toContainText('the thing under 1 dab');
  await where.getByRole('radio', { name: 'Not this' }).last().focus();
  await page.keyboard.press('Enter');
  await bench.table.focus();
  for (const key of ['Shift+ArrowLeft', 'Shift+ArrowLeft', 'Shift+ArrowLeft', 'Enter', 'ArrowUp', 'Enter'])
    await page.keyboard.press(key);
  await expect(where).toContainText('the thing under 2 dabs');
});

test('two dabs say where a change is made, and by what they are told apart', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Match');
  await page.getByRole('button', { name: /^Saturation: / }).click();
  await page.getByRole('slider', { name: 'Saturation' }).fill('0.2');
  const where = page.getByRole('group', { name: /Where: Saturation/ });
  await where.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Two dabs' }).click();
  await bench.drag([0.4, 0.4], [0.42, 0.4]);
  await page.getByRole('radio', { name: 'Not this' }).click();
  await bench.drag([0.6, 0.6], [0.62, 0.6]);
  await expect(where.getByText(/parts them: \d+ % overlap/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Saturation: .* where .* tells it apart/ })).toBeVisible();
  // the range that came of it is one like any other
  const from = where.getByRole('slider', { name: 'From' });
  const before = await from.inputValue();
  await from.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => from.inputValue()).not.toBe(before);
});
