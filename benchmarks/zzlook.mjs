import { chromium } from 'playwright';
import { serve } from '../scripts/serve.mjs';
const s = await serve(3377);
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--headless'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', (m) => m.type() === 'error' && console.log('E', m.text()));
const [,, demo, ...rest] = process.argv;
await p.goto(`${s.address}/bench?project=demo-${demo}`);
const nav = p.getByRole('navigation', { name: 'Stations' });
await nav.waitFor();
const go = (n) => nav.getByRole('button', { name: new RegExp(n) }).click();
for (let i = 0; i < 120; i++) { await p.waitForTimeout(500); if (!(await nav.innerText()).includes('not made yet')) break; }
await go('Merge'); await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/l1.png' });
const sec = p.getByRole('group', { name: 'This place from one frame' });
await sec.getByRole('button').nth(Number(rest[0] ?? 1)).click();
await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/l2.png' });
const t = p.getByLabel('Picture, Merge'); const box = await t.boundingBox();
const [fx, fy] = (rest[1] ?? '0.5,0.5').split(',').map(Number);
await p.mouse.move(box.x + fx * box.width, box.y + fy * box.height); await p.mouse.down(); await p.mouse.move(box.x + fx * box.width + 12, box.y + fy * box.height + 3, { steps: 4 });
await p.mouse.up(); const t0 = Date.now();
await p.waitForTimeout(300);
for (let i = 0; i < 120; i++) { await p.waitForTimeout(100); const txt = await p.locator('main').innerText(); if (!/Merging/.test(txt)) break; }
console.log('again', Date.now() - t0);
await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/l3.png' });
await b.close(); s.server.kill(); process.exit(0);
