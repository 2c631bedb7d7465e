import { expect, type Page, test } from '@playwright/test';
import { mergedBracket } from './bench';

test.describe.configure({ timeout: 120_000 });

/**
 * Keeps what stands on the table under a name, on the page, and compares it with what was kept under another.
 * @returns the largest difference of a code; Infinity where the sizes differ or nothing was kept
 */
const mostApart = (page: Page, name: string, other: string): Promise<number> =>
  page.evaluate(
    ([mine, theirs]) => {
      const kept = ((globalThis as { kept?: Record<string, Uint8ClampedArray> }).kept ??= {});
      const canvas = document.querySelector<HTMLCanvasElement>('[role=application] canvas');
      const image = canvas?.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height);
      const before = kept[theirs];
      if (!image) return Infinity;
      kept[mine] = image.data;
      if (before?.length !== image.data.length) return Infinity;
      let most = 0;
      for (let i = 0; i < before.length; i++) most = Math.max(most, Math.abs(before[i] - image.data[i]));
      return most;
    },
    [name, other] as const,
  );

/** Keeps the table under a name once it does not change any more. */
async function still(page: Page, name: string): Promise<void> {
  const change = async (): Promise<number> => {
    await page.waitForTimeout(700);
    return mostApart(page, name, name);
  };
  await expect.poll(change, { timeout: 30_000 }).toBe(0);
}

test('a stroke that was rendered patch by patch looks as the whole does when it is rendered anew', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer' }).click();
  await page.getByRole('menuitem', { name: /Frame 3/ }).click();
  await still(page, 'before');
  await page.getByRole('radio', { name: 'Where' }).click();
  const add = page.getByRole('button', { name: 'Add a part' });
  if (await add.isVisible()) {
    await add.click();
    await page.getByRole('menuitem', { name: 'Brush' }).click();
  }
  await bench.drag([0.31, 0.42], [0.47, 0.5], [0.6, 0.36], [0.64, 0.61]);
  await still(page, 'patched');
  // what is painted shows
  expect(await mostApart(page, 'patched', 'before')).toBeGreaterThan(20);
  // another size and back: all of it is rendered and drawn from the start
  const size = page.viewportSize() ?? { width: 1280, height: 720 };
  await page.setViewportSize({ width: size.width - 90, height: size.height - 40 });
  await still(page, 'smaller');
  await page.setViewportSize(size);
  await still(page, 'whole');
  expect(await mostApart(page, 'whole', 'patched')).toBeLessThanOrEqual(1);
  // what was painted has an edge that can be measured
  await page.getByRole('button', { name: /^Its edge/ }).click();
  await expect(page.getByRole('img', { name: /^Tone across the edge.*fades over [\d.]+ px/ })).toBeVisible();
});
