// npm run screenshots: one current picture of every main view from the demo, into docs/screenshots/.
import { fileURLToPath } from 'node:url';
import { buildIfStale } from './build.mjs';
import { findChromium, installPackages } from './install.mjs';
import { serve } from './serve.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
await shoot();
await buildIfStale();
const { chromium } = await import('@playwright/test');
const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const { server, address } = await serve(3300);
const browser = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--disable-gpu'],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const station = (name) =>
    page.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name: new RegExp(name) });
  const look = (name) => page.getByRole('radio', { name, exact: true }).click();
  const keep = async (name) => {
    await page.mouse.move(0, 0);
    await page.waitForTimeout(1800);
    await page.screenshot({ path: `${folder}${name}.png` });
  };
  await page.goto(`${address}/bench?project=demo`);
  await station('Finish')
    .getByText(/MP|plain/)
    .waitFor({ timeout: 180_000 });
  await keep('frames');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: /^Frame 2,/ }).click();
  await keep('fit');
  await page.keyboard.press('3');
  await look('Origin');
  await keep('merge');
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Choose a frame' }).click();
  await page.getByRole('menuitem', { name: /Frame 2/ }).click();
  const box = await page.getByRole('application').boundingBox();
  const at = (x, y) => [box.x + x * box.width, box.y + y * box.height];
  // the glare of the sun and of the door lantern, taken back a little with the darker frame
  await page.getByRole('slider', { name: 'Flow' }).fill('0.4');
  for (const [x, y] of [
    [0.095, 0.347],
    [0.617, 0.372],
  ]) {
    await page.mouse.move(...at(x - 0.03, y));
    await page.mouse.down();
    for (const dx of [-0.01, 0.01, 0.03]) await page.mouse.move(...at(x + dx, y), { steps: 6 });
    await page.mouse.up();
  }
  await look('Mask');
  await keep('layers');
  await page.keyboard.press('5');
  await keep('finish');
  await page.getByRole('link', { name: 'marsh' }).click();
  await keep('shelf');
} finally {
  await browser.close();
  server.kill();
}
