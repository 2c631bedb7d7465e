import { type BrowserContext, expect, type Locator, type Page, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { hostileProjects } from '@/gauntlet/hostileProjects';
import { randomSource } from '@/core/raster/random';
import { smallBracket, type SmallFile } from '@/tests/smallBracket';
import { benchPage, chooseFormat, downloaded, mergedBracket } from './bench';
import { longestTask, type LongestTask } from './longestTask';

// short by default; `npm run gauntlet` asks for more by these
const times = (name: string, byDefault: number): number => Number(process.env[name] ?? byDefault);
const SEED = times('SEED', 1);
const CLOSES = times('CLOSES', 4);
const KILLS = times('KILLS', 4);
const PROJECTS = times('PROJECTS', 4);
/** milliseconds that the page may be busy at a time */
const MOST_RUN = 200;
const ROUNDS = times('ROUNDS', 2);
const FULL = times('FULL', 1);

const exposureOf = (page: Page) => page.getByRole('slider', { name: 'Exposure' });

/** A new project with the exposure's slider in hand; gives the project's address. */
async function atExposure(page: Page): Promise<string> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.waitForURL(/project=/);
  await benchPage(page).go('Finish');
  await exposureOf(page).focus();
  return page.url();
}

/** Opens a project in a new page, whoever has it, with the exposure's slider in hand. */
async function reopened(context: BrowserContext, address: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(address);
  const here = page.getByRole('button', { name: 'Work on it here' });
  await expect(exposureOf(page).or(here)).toBeVisible();
  if (await here.isVisible()) await here.click();
  await exposureOf(page).focus();
  return page;
}

/** Where the slider of the exposure stands, in steps of its keys. */
const stepsOf = async (page: Page): Promise<number> =>
  Math.round(Number(await exposureOf(page).inputValue()) / 0.05);

test(`a page that is closed within 50 ms of an edit, while others are being saved, loses nothing, ${CLOSES} times`, async ({
  context,
  page: first,
}) => {
  test.setTimeout(60_000 + CLOSES * 10_000);
  const random = randomSource(SEED);
  const address = await atExposure(first);
  let page = first;
  let owed = 0;
  for (let k = 0; k < CLOSES; k++) {
    const way = owed < 20 ? 1 : -1;
    const steps = 1 + Math.floor(random() * 14);
    for (let i = 0; i < steps; i++) {
      await page.keyboard.press(way > 0 ? 'ArrowRight' : 'ArrowLeft');
      owed += way;
      // some of them while the whole state is being written
      if (i < steps - 1) await page.waitForTimeout(random() * 160);
    }
    await page.waitForTimeout(random() * 50);
    if (k % 3 === 0) await page.close();
    else if (k % 3 === 1) await page.close({ runBeforeUnload: true });
    else await page.goto('about:blank');
    const left = page;
    page = await reopened(context, address);
    expect(await stepsOf(page), `close ${k}, way ${k % 3}`).toBe(owed);
    if (!left.isClosed()) await left.close();
  }
});

/**
 * Steps what has the focus for a while, then ends the process of the tab at once, without any farewell.
 * @returns when each step was made, and when the tab was ended, milliseconds since 1970
 */
async function steppedAndKilled(
  page: Page,
  random: () => number,
  way: number,
  most: number,
): Promise<{ done: number[]; killed: number }> {
  const done: number[] = [];
  const until = Date.now() + 200 + random() * 1300;
  while (Date.now() < until && done.length < most) {
    await page.keyboard.press(way > 0 ? 'ArrowRight' : 'ArrowLeft');
    done.push(Date.now());
    await page.waitForTimeout(20 + random() * 60);
  }
  const browser = await page.context().newCDPSession(page);
  const killed = Date.now();
  void browser.send('Page.crash').catch(() => undefined);
  await page.waitForEvent('crash', { timeout: 5000 }).catch(() => undefined);
  return { done, killed };
}

test(`a tab that is killed at any moment loses nothing older than a second, ${KILLS} times`, async ({
  context,
  page: first,
}) => {
  test.setTimeout(60_000 + KILLS * 10_000);
  const random = randomSource(SEED + 1);
  const address = await atExposure(first);
  let page = first;
  let [late, edits] = [0, 0];
  let start = 0;
  for (let k = 0; k < KILLS; k++) {
    const way = start < 10 ? 1 : -1;
    const { done, killed } = await steppedAndKilled(page, random, way, 30);
    const left = page;
    page = await reopened(context, address);
    const kept = (await stepsOf(page)) - start;
    const owed = done.filter((at) => at <= killed - 1000).length;
    expect(kept * way, `kill ${k}: ${done.length} edits, ${owed} owed`).toBeGreaterThanOrEqual(owed);
    late += done.length - kept * way;
    edits += done.length;
    start += kept;
    await left.close();
  }
  console.log(`${late} of ${edits} edits were later than what was kept`);
  // what was done up to the last tenth of a second is kept as a rule
  expect(late).toBeLessThanOrEqual(KILLS);
});

/** The sliders that are stepped on a project of two layers, each with where it is shown. */
const LAYERED = [
  { radio: 'Layer', slider: 'Opacity', step: 0.01, middle: 0.5 },
  { radio: 'Where', slider: 'Feather', step: 0.001, middle: 0.025 },
] as const;

/** A slider of the upper layer, in sight and in hand. */
async function layerSlider(page: Page, which: (typeof LAYERED)[number]): Promise<Locator> {
  await page.getByRole('row', { name: 'Layer plate-7' }).click();
  await page.getByRole('radio', { name: which.radio, exact: true }).click();
  const slider = page.getByRole('slider', { name: which.slider });
  const shape = page.getByRole('button', { name: /^Its edge/ });
  await expect(slider.or(shape).first()).toBeVisible();
  if (!(await slider.isVisible())) await shape.click();
  await slider.focus();
  return slider;
}

test(`a tab that is killed while layers and regions are edited loses nothing older than a second, ${KILLS} times`, async ({
  context,
  page: first,
}) => {
  test.setTimeout(120_000 + KILLS * 15_000);
  const random = randomSource(SEED + 2);
  const bench = benchPage(first);
  await first.goto('/');
  await first.getByRole('button', { name: 'New project' }).click();
  const [one, two] = await smallBracket();
  await bench.choose([one]);
  await bench.ready('Finish');
  await bench.go('Frames');
  await bench.choose([{ ...two, name: 'plate-7.jpg' }]);
  const each = first.getByRole('button', { name: 'By itself, as a layer' });
  await each.click();
  await bench.ready('Finish');
  await bench.go('Layers');
  await first.getByRole('row', { name: 'Layer plate-7' }).click();
  await first.getByRole('radio', { name: 'Where' }).click();
  await first.getByRole('button', { name: 'Add a part' }).click();
  await first.getByRole('menuitem', { name: 'Ellipse' }).click();
  const address = first.url();
  let page = first;
  let late = 0;
  let edits = 0;
  const at = [0, 0];
  for (const [k, which] of LAYERED.entries())
    at[k] = Number(await (await layerSlider(page, which)).inputValue());
  for (let k = 0; k < KILLS; k++) {
    const turn = k % 2;
    const way = at[turn] > LAYERED[turn].middle ? -1 : 1;
    await layerSlider(page, LAYERED[turn]);
    const { done, killed } = await steppedAndKilled(page, random, way, 20);
    const left = page;
    page = await context.newPage();
    await page.goto(address);
    const here = page.getByRole('button', { name: 'Work on it here' });
    await expect(page.getByRole('row', { name: 'Layer plate-7' }).or(here)).toBeVisible();
    if (await here.isVisible()) await here.click();
    for (const [i, which] of LAYERED.entries()) {
      const now = Number(await (await layerSlider(page, which)).inputValue());
      const kept = Math.round(((now - at[i]) / which.step) * way);
      const owed = i === turn ? done.filter((ms) => ms <= killed - 1000).length : 0;
      expect(kept, `kill ${k}, ${which.slider}: ${done.length} edits, ${owed} owed`).toBeGreaterThanOrEqual(
        owed,
      );
      if (i === turn) late += done.length - kept;
      at[i] = now;
    }
    edits += done.length;
    await left.close();
  }
  console.log(`${late} of ${edits} edits of layers and regions were later than what was kept`);
  expect(late).toBeLessThanOrEqual(KILLS);
});

test(`${PROJECTS} hostile project files open or say why not; the shelf and every other project stay`, async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000 + PROJECTS * 10_000);
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.waitForURL(/project=/);
  await page.getByLabel('Title of the project').fill('Gull island');
  await page.keyboard.press('Enter');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const tasks: ({ readonly name: string } & LongestTask)[] = [];
  let k = 0;
  for await (const packed of hostileProjects(PROJECTS, SEED + 70)) {
    const name = `hostile-${k++}.zip`;
    const longest = await longestTask(browser, page, async () => {
      await page.goto('/');
      const chooser = page.waitForEvent('filechooser');
      await page.getByRole('button', { name: 'Open a project file' }).click();
      await (await chooser).setFiles({ name, mimeType: 'application/zip', buffer: Buffer.from(packed) });
      const stations = page.getByRole('navigation', { name: 'Stations' });
      const refused = page.getByRole('main').getByRole('alert').filter({ hasText: name });
      await expect(stations.or(refused), name).toBeVisible({ timeout: 30_000 });
      if (await stations.isVisible())
        for (const station of ['Fit', 'Merge', 'Layers', 'Match', 'Finish', 'Proof'])
          await benchPage(page).go(station);
      await expect(page.getByText(/couldn.t load|went wrong/i)).toHaveCount(0);
    });
    tasks.push({ name, ...longest });
  }
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Gull island/ })).toBeVisible();
  expect(errors).toEqual([]);
  const said = (by: 'held' | 'ran'): string =>
    tasks
      .toSorted((a, b) => b[by] - a[by])
      .slice(0, 5)
      .map((t) => `${Math.round(t[by])} ms (${t.name})`)
      .join(', ');
  console.log(`the page was held longest: ${said('held')}; its thread ran longest: ${said('ran')}`);
  // what the page itself does, whatever else has the core meanwhile
  expect(Math.max(...tasks.map((t) => t.ran))).toBeLessThanOrEqual(MOST_RUN);
});

/** Frames that differ in their bytes, not in what they show. */
async function tenFrames(): Promise<SmallFile[]> {
  const shots = await smallBracket();
  return Array.from({ length: 9 }, (_, i) => {
    const { name, buffer, mimeType } = shots[i % 3];
    return { name: `${i}-${name}`, mimeType, buffer: Buffer.concat([buffer, Buffer.from([i])]) };
  });
}

/** Gives files to the bench, without waiting for what was given before. */
async function drop(page: Page, files: readonly SmallFile[]): Promise<void> {
  await page
    .locator('input[type=file][multiple]:not([webkitdirectory])')
    .first()
    .setInputFiles([...files]);
}

/** File names of the frames that a project holds. */
async function framesOf(page: Page): Promise<string[]> {
  const buttons = await page.getByRole('button', { name: /^Frame \d+, / }).all();
  const names = await Promise.all(
    buttons.map(async (b) => (await b.getAttribute('aria-label')) ?? (await b.innerText())),
  );
  return names.map((n) => /\d-shot-\d\.jpg/.exec(n)?.[0] ?? n).sort();
}

test(`drops, removals, steps back and takeovers in any order, ${ROUNDS} times: every frame is there, exposures are right`, async ({
  context,
}) => {
  test.setTimeout(60_000 + ROUNDS * 60_000);
  const frames = await tenFrames();
  for (let round = 0; round < ROUNDS; round++) {
    const random = randomSource(SEED * 1009 + round);
    const below = (n: number): number => Math.floor(random() * n);
    let page = await context.newPage();
    const errors: string[] = [];
    const watch = (p: Page) => p.on('pageerror', (error) => errors.push(error.message));
    watch(page);
    await page.goto('/');
    await page.getByRole('button', { name: 'New project' }).click();
    await page.waitForURL(/project=/);
    await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
    const expected = new Set<string>();
    let next = 0;
    while (next < frames.length) {
      const some = frames.slice(next, next + 1 + below(3));
      next += some.length;
      await drop(page, some);
      some.forEach((f) => expected.add(f.name));
      await page.waitForTimeout(random() * 1200);
      const what = below(4);
      if (what === 0 && (await page.getByRole('button', { name: /^Frame \d+, / }).count()) > 2) {
        // taken out and brought back by a step back, while others may be arriving
        const removals = page.getByRole('button', { name: /^Take .*out of the project|^Remove/ });
        if ((await removals.count()) > 0) {
          await removals.first().click();
          await page.keyboard.press('Control+z');
        }
      } else if (what === 1 && expected.size === next && below(2)) {
        await expect(page.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(expected.size, {
          timeout: 30_000,
        });
        const second = await context.newPage();
        watch(second);
        await second.goto(page.url());
        await second.getByRole('button', { name: 'Work on it here' }).click();
        await expect(second.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(expected.size, {
          timeout: 30_000,
        });
        await page.close();
        page = second;
      }
    }
    await expect
      .poll(() => framesOf(page), { timeout: 60_000, message: `round ${round}` })
      .toEqual([...expected].sort());
    const stops = await storedStops(page);
    for (const [name, value] of stops) {
      const shot = Number(/shot-(\d)/.exec(name)?.[1]);
      const reference = stops.find(([n]) => n.includes('shot-0'))?.[1] ?? 0;
      expect(value - reference, `${name} of round ${round}`).toBeCloseTo(2 * shot, 1);
    }
    expect(errors).toEqual([]);
    await page.close();
  }
});

/** Names and exposures of the frames as they are stored. */
async function storedStops(page: Page): Promise<[string, number][]> {
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
  const id = new URL(page.url()).searchParams.get('project') ?? '';
  return page.evaluate(
    (key) =>
      new Promise<[string, number][]>((resolve, reject) => {
        const opening = indexedDB.open('marsh');
        opening.onerror = () => reject(new Error('no store'));
        opening.onsuccess = () => {
          const get = opening.result.transaction('projects').objectStore('projects').get(key);
          get.onsuccess = () => {
            opening.result.close();
            const { frames } = (get.result as { project: { frames: { file: string; stops: number }[] } })
              .project;
            resolve(frames.map((f) => [f.file, f.stops]));
          };
        };
      }),
    id,
  );
}

/** Sets how much the page may store, bytes; none sets it free. */
async function allow(page: Page, bytes?: number): Promise<void> {
  const browser = await page.context().newCDPSession(page);
  const origin = new URL(page.url()).origin;
  await browser.send('Storage.overrideQuotaForOrigin', {
    origin,
    ...(bytes === undefined ? {} : { quotaSize: bytes }),
  });
}

test(`a full store, ${FULL} times: nothing that was there is lost, nothing is called saved that is not, and all of it can be exported`, async ({
  context,
}) => {
  test.setTimeout(60_000 + FULL * 60_000);
  const extra = await tenFrames();
  for (let k = 0; k < FULL; k++) {
    const page = await context.newPage();
    await mergedBracket(page);
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await allow(page, 1);
    await drop(page, extra.slice(0, 2));
    await expect(page.getByRole('main').getByRole('alert')).toContainText(
      'could not be kept by the browser',
      { timeout: 30_000 },
    );
    await expect(page.getByText('not saved')).toBeVisible();
    await expect(page.getByText('saved', { exact: true })).toHaveCount(0);
    await benchPage(page).go('Finish');
    for (let step = 0; step < 10; step++) {
      await exposureOf(page).focus();
      await page.keyboard.press('ArrowRight');
      await page.waitForTimeout(60);
    }
    const packed = await downloaded(page, 'Save the project file');
    expect(packed.bytes.length).toBeGreaterThan(30_000);
    await allow(page);
    // an edit with room again writes everything that is still only in the page
    await exposureOf(page).focus();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 30_000 });
    await page.reload();
    await benchPage(page).go('Frames');
    await expect(page.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(5, { timeout: 30_000 });
    await benchPage(page).go('Finish');
    expect(Math.round(Number(await exposureOf(page).inputValue()) / 0.05)).toBe(11);
    await expect(page.getByRole('main').getByRole('alert').getByRole('listitem')).toHaveText([]);
    await page.close();
  }
});

const FORMATS = [
  ...['lzw16.tif', 'float.tif', 'lossless.webp', 'truth.avif', 'truth.jxl', 'light.exr', 'light.hdr'],
  ...['progressive.jpg', 'cmyk.jpg', 'romm16.tif', 'zstd16.tif', 'jpegTiled8.tif', 'interlaced.png'],
];
const KINDS = [
  'PNG, 16 bit',
  'TIFF, 16 bit',
  'TIFF, linear floats',
  'JPEG',
  'OpenEXR, linear',
  'OpenRaster, layered',
];

async function freshBench(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
  return page;
}

test('without a network from the moment the bench stands: every format opens, fits, merges and is delivered', async ({
  context,
}) => {
  test.setTimeout(180_000);
  const files = await smallBracket();
  const page = await freshBench(context);
  await context.setOffline(true);
  const bench = benchPage(page);
  await bench.choose(files);
  await bench.ready('Finish');
  await bench.go('Finish');
  for (const kind of KINDS) {
    await chooseFormat(page, kind);
    const { bytes } = await downloaded(page, 'Deliver the picture');
    expect(bytes.length, kind).toBeGreaterThan(1000);
  }
  expect((await downloaded(page, 'Save the project file')).bytes.length).toBeGreaterThan(10_000);
  await expect(page.getByRole('main').getByRole('alert').getByRole('listitem')).toHaveCount(0);
  await page.close();
  await context.setOffline(false);
  const second = await freshBench(context);
  await context.setOffline(true);
  await benchPage(second).choose(
    FORMATS.map((name) => ({
      name,
      mimeType: 'application/octet-stream',
      buffer: readFileSync(`tests/files/${name}`),
    })),
  );
  await expect(second.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(FORMATS.length, {
    timeout: 60_000,
  });
  await expect(second.getByRole('main').getByRole('alert').getByRole('listitem')).toHaveCount(0);
  // and the page itself comes back
  await second.reload();
  await expect(second.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(FORMATS.length, {
    timeout: 60_000,
  });
  await context.setOffline(false);
});

test('workers that end without a word do not hold up a fit or a delivery', async ({ page }) => {
  test.setTimeout(180_000);
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
  const end = async (): Promise<void> => {
    for (const worker of page.workers().slice(0, 2))
      await worker.evaluate(() => self.close()).catch(() => undefined);
  };
  const chosen = bench.choose(await smallBracket());
  await page.waitForTimeout(150);
  await end();
  await chosen;
  await page.waitForTimeout(400);
  await end();
  await bench.ready('Finish');
  await bench.go('Finish');
  const delivered = downloaded(page, 'Deliver the picture');
  await page.waitForTimeout(30);
  await end();
  expect((await delivered).bytes.subarray(1, 4).toString()).toBe('PNG');
});
