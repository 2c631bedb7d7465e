import { chromium, expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { smallBracket } from '@/tests/smallBracket';
import { benchPage, downloaded } from './bench';

/*
 * A disk that is really full: the browser's profile lies in a memory file system of a few megabytes. Only where one may be mounted;
 * `npm run gauntlet` asks for it by DISKS.
 */
const DISKS = Number(process.env.DISKS ?? 0);
const PROFILE_MB = 96;

const exposureOf = (page: Page) => page.getByRole('slider', { name: 'Exposure' });

if (DISKS > 0)
  test(`a disk that fills while one works, ${DISKS} times: originals, recipe and shelf are there afterwards`, async ({
    baseURL,
  }) => {
    test.setTimeout(60_000 + DISKS * 240_000);
    const folder = test.info().outputPath('profile');
    const { args, executablePath } = test.info().project.use.launchOptions ?? {};
    for (let k = 0; k < DISKS; k++) {
      mkdirSync(folder, { recursive: true });
      execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${PROFILE_MB}m`, 'tmpfs', folder]);
      try {
        const open = () => chromium.launchPersistentContext(folder, { args, executablePath, baseURL });
        let context = await open();
        let page = await context.newPage();
        await page.goto('/');
        await page.getByRole('button', { name: 'New project' }).click();
        await benchPage(page).choose(await smallBracket());
        await benchPage(page).ready('Finish');
        await expect(page.getByText('saved', { exact: true })).toBeVisible();
        // the recipe is kept a second time when it has been quiet
        await page.waitForTimeout(5000);
        const address = page.url();
        await benchPage(page).go('Finish');
        await exposureOf(page).focus();
        // a browser gives up caches of its own, and what it may of the page, until there is nothing left to give up
        for (let step = 0; step < 10; step++) {
          fill(folder);
          await page.keyboard.press('ArrowRight');
          await page.waitForTimeout(500);
        }
        fill(folder);
        await page.keyboard.press('ArrowLeft');
        await expect(page.getByText('not saved')).toBeVisible({ timeout: 30_000 });
        await expect(page.getByText('saved', { exact: true })).toHaveCount(0);
        await expect(page.getByRole('main').getByRole('alert')).toContainText(/no room left|does not answer/);
        const packed = await downloaded(page, 'Save the project file');
        expect(packed.bytes.length).toBeGreaterThan(30_000);
        for (const name of readdirSync(folder)) if (name.startsWith('fill')) rmSync(`${folder}/${name}`);
        await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 60_000 });
        await context.close();
        context = await open();
        page = await context.newPage();
        await page.goto('/');
        await expect(page.getByRole('list', { name: 'Projects' }).getByRole('link')).toHaveCount(1);
        await page.goto(address);
        await benchPage(page).ready('Finish');
        await expect(page.getByRole('main').getByRole('alert').getByRole('listitem')).toHaveCount(0);
        expect(Math.round(Number(await exposureOf(page).inputValue()) / 0.05)).toBe(9);
        await context.close();
      } finally {
        execFileSync('umount', ['-l', folder]);
      }
    }
  });

/** Fills what is left of the disk. */
function fill(folder: string): void {
  for (const size of [65536, 1024])
    try {
      const piece = randomBytes(size);
      for (;;) appendFileSync(`${folder}/fill-${size}`, piece);
    } catch {
      // it is full
    }
}
