import { type Download, expect, type Locator, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { smallBracket, type SmallFile } from '@/tests/smallBracket';

/** What a user sees and does on the bench, by the names that a screen reader hears. */
export interface BenchPage {
  readonly page: Page;
  readonly table: Locator;
  readonly station: (name: string) => Locator;
  /** gives files to the file picker */
  readonly choose: (files: readonly SmallFile[]) => Promise<void>;
  /** waits until the trail knows a finding of the station */
  readonly ready: (station: string) => Promise<void>;
  readonly go: (station: string) => Promise<void>;
  /** drags on the table, in fractions of it */
  readonly drag: (...points: readonly (readonly [number, number])[]) => Promise<void>;
  /** the same with a pen that is pressed so hard, 0…1 */
  readonly pen: (force: number, ...points: readonly (readonly [number, number])[]) => Promise<void>;
}

export function benchPage(page: Page): BenchPage {
  const table = page.getByRole('application', { name: /^Picture/ });
  const station = (name: string): Locator =>
    page.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name: new RegExp(name) });
  return {
    page,
    table,
    station,
    choose: async (files) => {
      const chooser = page.waitForEvent('filechooser');
      await page.getByRole('button', { name: 'Choose files' }).click();
      await (await chooser).setFiles([...files]);
    },
    ready: (name) => expect(station(name)).not.toContainText(/not made yet|stopped/, { timeout: 60_000 }),
    go: (name) => station(name).click(),
    drag: async (...points) => {
      const box = await table.boundingBox();
      if (!box) throw new Error('the table is not there');
      const at = ([x, y]: readonly [number, number]) =>
        [box.x + x * box.width, box.y + y * box.height] as const;
      await page.mouse.move(...at(points[0]));
      await page.mouse.down();
      for (const point of points.slice(1)) await page.mouse.move(...at(point), { steps: 6 });
      await page.mouse.up();
    },
    pen: async (force, ...points) => {
      const box = await table.boundingBox();
      if (!box) throw new Error('the table is not there');
      const browser = await page.context().newCDPSession(page);
      const send = (
        type: 'mousePressed' | 'mouseMoved' | 'mouseReleased',
        [x, y]: readonly [number, number],
      ) =>
        browser.send('Input.dispatchMouseEvent', {
          type,
          x: box.x + x * box.width,
          y: box.y + y * box.height,
          button: 'left',
          buttons: type === 'mouseReleased' ? 0 : 1,
          clickCount: 1,
          pointerType: 'pen',
          force: type === 'mouseReleased' ? 0 : force,
        });
      await send('mousePressed', points[0]);
      for (const point of points.slice(1)) await send('mouseMoved', point);
      await send('mouseReleased', points[points.length - 1]);
    },
  };
}

/** A new project with the small bracket merged on it. */
export const mergedBracket = async (page: Page, extra: readonly SmallFile[] = []): Promise<BenchPage> =>
  mergedSet(page, [...(await smallBracket()), ...extra]);

/** A new project with files merged on it. */
export async function mergedSet(page: Page, files: readonly SmallFile[]): Promise<BenchPage> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(files);
  await bench.ready('Finish');
  return bench;
}

export async function bytesOf(download: Download): Promise<Buffer> {
  return readFile(await download.path());
}

/** Presses a button and takes the file that the browser downloads. */
export async function downloaded(page: Page, button: string): Promise<{ name: string; bytes: Buffer }> {
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  const download = await waiting;
  return { name: download.suggestedFilename(), bytes: await bytesOf(download) };
}

/** Chooses what the picture is delivered as, under Finish. */
export async function chooseFormat(page: Page, name: string): Promise<void> {
  await page.getByRole('region', { name: 'Deliver' }).getByRole('button', { name: /As/ }).click();
  await page.getByRole('option', { name, exact: true }).click();
}
