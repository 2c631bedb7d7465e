import { expect, type Page, test } from '@playwright/test';
import { benchPage } from './bench';

test.describe.configure({ timeout: 90_000 });

type Spot = readonly [x: number, y: number];

/** Fingers on the table, in fractions of it. */
async function fingers(
  page: Page,
): Promise<(kind: 'touchStart' | 'touchMove' | 'touchEnd', ...at: readonly Spot[]) => Promise<void>> {
  const box = await benchPage(page).table.boundingBox();
  if (!box) throw new Error('the table is not there');
  const browser = await page.context().newCDPSession(page);
  return async (type, ...at) => {
    const touchPoints = at.map(([x, y], id) => ({ id, x: box.x + x * box.width, y: box.y + y * box.height }));
    await browser.send('Input.dispatchTouchEvent', { type, touchPoints });
  };
}

const zoomOf = async (page: Page): Promise<number> =>
  Number(
    /([\d.]+) %/.exec(
      await page.getByRole('button', { name: 'Between the whole picture and 1:1' }).innerText(),
    )?.[1],
  );

for (const [how, width, height] of [
  ['upright', 744, 1133],
  ['lying', 1133, 744],
] as const)
  test.describe(`on a small tablet, ${how}`, () => {
    test.use({ viewport: { width, height }, hasTouch: true });

    test('two focus frames are joined by hand: by finger and pen, two fingers move the picture, the panel folds', async ({
      page,
    }) => {
      await page.goto('/bench?project=demo-focus-two');
      const bench = benchPage(page);
      await bench.ready('Finish');
      await bench.station('Layers').tap();
      await page.getByRole('button', { name: 'Add a layer', exact: true }).tap();
      await page.getByRole('menuitem', { name: /samphire-02/ }).tap();
      await page.getByRole('button', { name: 'Hide all' }).tap();
      // nothing of the screen lies outside of it, and what is touched is large enough
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      const small = await page.evaluate(() =>
        [...document.querySelectorAll('main button, main [role=radio]')]
          .filter((e) => e.getClientRects().length > 0)
          .map((e) => ({
            name: e.textContent,
            height: (e.closest('label') ?? e).getBoundingClientRect().height,
          }))
          // one that is only heard has no size
          .filter((e) => e.height > 2 && e.height < 43.5),
      );
      expect(small).toEqual([]);

      await page.getByRole('button', { name: 'Fold the panel Layers' }).tap();
      const table = await bench.table.boundingBox();
      expect((table?.width ?? 0) * (table?.height ?? 0)).toBeGreaterThan(0.5 * width * height);
      const touch = await fingers(page);
      const line: Spot[] = [
        [0.3, 0.45],
        [0.36, 0.42],
        [0.42, 0.46],
      ];
      await touch('touchStart', line[0]);
      for (const at of line) await touch('touchMove', at);
      await touch('touchEnd');
      const before = await zoomOf(page);
      // the second finger takes back what the first began to draw, and both move the picture
      await touch('touchStart', [0.45, 0.5]);
      await touch('touchMove', [0.44, 0.5]);
      await touch('touchStart', [0.44, 0.5], [0.56, 0.5]);
      for (let k = 1; k <= 6; k++) await touch('touchMove', [0.44 - 0.03 * k, 0.5], [0.56 + 0.03 * k, 0.5]);
      await touch('touchEnd');
      await expect.poll(() => zoomOf(page)).toBeGreaterThan(1.5 * before);
      await bench.pen(0.6, [0.5, 0.55], [0.56, 0.6]);
      await page.getByRole('button', { name: 'Open the panel Layers' }).tap();
      await expect(page.getByRole('button', { name: '2 strokes', exact: true })).toBeVisible();
      await expect(page.getByRole('button', { name: /^Take back: Revealed/ })).toBeEnabled();
    });
  });
