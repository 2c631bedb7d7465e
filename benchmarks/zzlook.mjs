import { findChromium } from '../scripts/install.mjs';
import { serve } from '../scripts/serve.mjs';
const { chromium } = await import('@playwright/test');
const { server, address } = await serve(3391);
const browser = await chromium.launch({ executablePath: findChromium(), args: ['--no-sandbox', '--disable-gpu'] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.log('ERR', e.message));
  await page.goto(`${address}/bench?project=demo-plates`);
  const nav = page.getByRole('navigation', { name: 'Stations' });
  await nav.getByRole('button', { name: /Finish/ }).getByText(/MP|plain/).waitFor({ timeout: 240000 });
  // hide the others
  await nav.getByRole('button', { name: /Layers/ }).click();
  for (const name of ['cloud', 'moon', 'walker', 'boat']) {
    await page.getByText(name, { exact: true }).first().click();
    await page.getByRole('radio', { name: 'Layer' }).click();
    await page.waitForTimeout(200);
    const del = page.getByRole('button', { name: 'Remove', exact: true });
    await del.click();
    await page.waitForTimeout(200);
  }
  await nav.getByRole('button', { name: /Ground/ }).click();
  await page.getByRole('button', { name: 'Lay the ground' }).click();
  await page.getByRole('button', { name: 'Make it belong', exact: true }).click();
  await page.waitForTimeout(3000);
  const table = page.getByRole('application', { name: /^Picture/ });
  const box = await table.boundingBox();
  const drag = async (x0, y0, x1, y1) => { await page.mouse.move(box.x + x0, box.y + y0); await page.mouse.down(); await page.mouse.move(box.x + x1, box.y + y1, { steps: 8 }); await page.mouse.up(); await page.waitForTimeout(1200); };
  await page.screenshot({ path: '/tmp/h1.png' });
  await page.getByRole('button', { name: 'Pull on the picture' }).click();
  await page.waitForTimeout(600);
  const horizon = process.argv[2] ? Number(process.argv[2]) : 250;
  await drag(40, 272, 40, horizon);
  await page.screenshot({ path: '/tmp/h2.png' });
  await page.getByRole('slider', { name: 'Sun from' }).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(4000);
  await page.screenshot({ path: '/tmp/h3.png' });
  console.log(await page.getByText(/does not|no shadow|belongs|m away/).allInnerTexts());
} finally { await browser.close(); server.kill(); }
