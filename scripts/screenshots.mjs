// npm run screenshots: one current picture of every main view from the demo, into docs/screenshots/.
import { fileURLToPath } from 'node:url';
import { buildIfStale } from './build.mjs';
import { findChromium, installPackages } from './install.mjs';
import { serve } from './serve.mjs';

installPackages();
const { shoot } = await import('./shoot.mjs');
await shoot();
buildIfStale();
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
  await page.mouse.move(...at(0.16, 0.36));
  await page.mouse.down();
  for (const x of [0.25, 0.35, 0.42]) await page.mouse.move(...at(x, 0.38), { steps: 8 });
  await page.mouse.up();
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
