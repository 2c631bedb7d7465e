// Slider to pixels, brush to pixels, first useful screen and main-thread tasks, in Debian's headless Chromium on the built application.
import { findChromium } from '../scripts/install.mjs';
import { serve } from '../scripts/serve.mjs';
import { chromium } from '@playwright/test';

const STEPS = 16;

const { server, address } = await serve(3311);
const browser = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--disable-gpu'],
});

/** Notes when pixels reach the table after what the hand did, and every task of the main thread over 50 ms. */
const watch = () => {
  const seen = { at: 0, waits: [], tasks: [] };
  globalThis.seen = seen;
  for (const kind of ['keydown', 'pointermove'])
    addEventListener(kind, (event) => (seen.at ||= event.timeStamp), { capture: true });
  const put = CanvasRenderingContext2D.prototype.putImageData;
  CanvasRenderingContext2D.prototype.putImageData = function (...args) {
    put.apply(this, args);
    seen.first ??= performance.now();
    const { at } = seen;
    seen.at = 0;
    if (at) requestAnimationFrame(() => seen.waits.push(performance.now() - at));
  };
  new PerformanceObserver((list) =>
    list.getEntries().forEach(({ startTime, duration }) => seen.tasks.push([startTime, duration])),
  ).observe({ entryTypes: ['longtask'] });
};

const sorted = (values) => [...values].sort((a, b) => a - b);
const median = (values) => sorted(values)[values.length >> 1];
const ms = (value) => (value === undefined ? '—' : value.toFixed(0));

const LOADS = 5;
/** demo sets of other kinds, opened once each */
const KINDS = ['demo-panorama', 'demo-column', 'demo-focus', 'demo-night'];
const VIEW = { width: 1280, height: 800 };

const station = (page, name) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name: new RegExp(name) });

/** Opens a demo project in a browser that has seen nothing yet, until everything is made and proofed. */
async function opened(project) {
  const context = await browser.newContext({ viewport: VIEW });
  const page = await context.newPage();
  await page.addInitScript(watch);
  const start = Date.now();
  await page.goto(`${address}/bench?project=${project}`, { waitUntil: 'commit' });
  await page.waitForFunction(() => document.querySelector('canvas'));
  const screen = Date.now() - start;
  await page.waitForFunction(() => globalThis.seen.first !== undefined);
  const picture = Date.now() - start;
  await station(page, 'Finish')
    .getByText(/MP|plain/)
    .waitFor({ timeout: 240_000 });
  const whole = Date.now() - start;
  await page.waitForTimeout(4000);
  const { tasks, first } = await page.evaluate(() => globalThis.seen);
  const durations = (which) => tasks.filter(([at]) => which(at)).map(([, d]) => d);
  return {
    context,
    page,
    screen,
    picture,
    whole,
    opening: durations((at) => at < first),
    computing: durations((at) => at >= first),
  };
}

const list = (durations) => durations.map(ms).join(', ') || 'none';

try {
  console.log(`\n## Interface, bracket of 5 × 1.5 MP, window of 1280 × 800\n`);
  const loads = [];
  for (let k = 0; k < LOADS; k++) {
    const load = await opened('demo-bracket');
    loads.push(load);
    if (k < LOADS - 1) await load.context.close();
  }
  const { page, context } = loads.at(-1);
  const of = (name) => ms(median(loads.map((l) => l[name])));
  console.log(
    `Medians of ${LOADS} first visits: bench on the screen after ${of('screen')} ms, the first picture after ${of('picture')} ms, all made after ${of('whole')} ms.\n`,
  );
  console.log(
    '| first visit | tasks over 50 ms until the first picture | after it, while everything is made |',
  );
  console.log('| --- | --- | --- |');
  for (const { opening, computing } of loads)
    console.log(`| demo-bracket | ${list(opening)} | ${list(computing)} |`);
  for (const kind of KINDS) {
    const load = await opened(kind);
    await load.context.close();
    console.log(`| ${kind} | ${list(load.opening)} | ${list(load.computing)} |`);
  }
  console.log('\n| hand | median, ms | worst, ms | tasks over 50 ms |');
  console.log('| --- | ---: | ---: | --- |');
  const measured = async (name, act) => {
    await page.waitForTimeout(1500);
    await page.evaluate(() => Object.assign(globalThis.seen, { at: 0, waits: [], tasks: [] }));
    await act();
    await page.waitForTimeout(400);
    const { waits, tasks } = await page.evaluate(() => globalThis.seen);
    console.log(
      `| ${name} | ${ms(median(waits))} | ${ms(sorted(waits).at(-1))} | ${tasks.map(([, d]) => ms(d)).join(', ') || 'none'} |`,
    );
  };
  const slider = async (key, label) => {
    await page.keyboard.press(key);
    const control = page.getByRole('slider', { name: label }).first();
    await control.focus();
    await measured(label, async () => {
      for (let k = 0; k < STEPS; k++) {
        await page.keyboard.press('ArrowRight');
        await page.waitForTimeout(90);
      }
    });
    await page.keyboard.press('Control+z');
  };
  for (const key of ['2', '3', '4', '5', '6', '7', '1'])
    await measured(`station ${key}`, () => page.keyboard.press(key));
  for (const [key, labels] of [
    ['6', ['Exposure', 'Less noise', 'Sharpen']],
    ['5', ['Saturation']],
  ])
    for (const label of labels) await slider(key, label);
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Add a layer' }).click();
  await page.getByRole('menuitem', { name: /Frame 2/ }).click();
  const box = await page.getByRole('application').boundingBox();
  await measured('brush', async () => {
    await page.mouse.move(box.x + 0.3 * box.width, box.y + 0.4 * box.height);
    await page.mouse.down();
    for (let k = 0; k < 3 * STEPS; k++) {
      await page.mouse.move(box.x + (0.3 + 0.006 * k) * box.width, box.y + (0.4 + 0.002 * k) * box.height);
      await page.waitForTimeout(60);
    }
    await page.mouse.up();
  });
  await context.close();
} finally {
  await browser.close();
  server.kill();
}
