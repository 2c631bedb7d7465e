// npm run screenshots: one current picture of every main view from the demo, into docs/screenshots/.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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
  const finished = () =>
    station('Finish')
      .getByText(/MP|plain/)
      .waitFor({ timeout: 240_000 });
  const keep = async (name) => {
    await page.mouse.move(0, 0);
    await page.waitForTimeout(1800);
    await page.screenshot({ path: `${folder}${name}.png` });
  };
  await page.goto(`${address}/bench?project=demo`);
  await finished();
  await keep('frames');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: /^Frame 2,/ }).click();
  await keep('fit');
  await page.keyboard.press('3');
  await page.getByRole('radio', { name: 'Radiance' }).click();
  await page.getByRole('button', { name: /Response off sRGB/ }).waitFor({ timeout: 60_000 });
  await look('Both ways');
  // what was merged before is made again to lie beside
  await page.getByText('Merging the other way').waitFor({ timeout: 60_000 });
  await page.getByText('Merging the other way').waitFor({ state: 'detached', timeout: 60_000 });
  await keep('merge');
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Add a layer' }).click();
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
  // the strokes of its region are listed
  await page.getByRole('button', { name: /strokes$/ }).click();
  await keep('layers');
  await page.keyboard.press('5');
  await page.getByRole('button', { name: /^The whole less noise/ }).click();
  const rung = page.getByRole('slider', { name: 'Dark' });
  await rung.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('ArrowRight');
  // what is known of two places: the boards of the walk are grey, the sky is right
  await page.getByRole('button', { name: /^Like another/ }).click();
  for (const [says, place] of [
    ['Grey', [0.17, 0.53]],
    ['Kept', [0.3, 0.16]],
  ]) {
    await page.getByRole('button', { name: says, exact: true }).click();
    await page.mouse.click(...at(...place));
    await page.getByRole('list', { name: 'Marks' }).getByText(says).waitFor();
  }
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Half as much' }).click();
  await keep('match');
  await page.keyboard.press('7');
  await page.getByRole('button', { name: /^Glow: / }).click();
  const glow = page.getByRole('slider', { name: 'Glow', exact: true });
  await glow.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press('PageUp');
  // it is sharp when the hand has rested
  await page.waitForTimeout(4000);
  await keep('finish');
  await page.keyboard.press('8');
  // a picture without findings has nothing to pin
  const pin = page.getByRole('button', { name: 'Pin the places of the findings' });
  if (await pin.isEnabled()) await pin.click();
  await page.keyboard.press('t');
  await page.mouse.move(...at(0.75, 0.4));
  await page.waitForTimeout(1200);
  await page.screenshot({ path: `${folder}proof.png` });
  await page.getByRole('link', { name: 'marsh' }).click();
  await keep('shelf');
  /** one demo set of another kind at its merge */
  const kind = async (set, name, shown) => {
    await page.goto(`${address}/bench?project=demo-${set}`);
    await finished();
    await page.keyboard.press('3');
    if (shown) await look(shown);
    await keep(name);
  };
  await kind('panorama', 'panorama');
  // its border bent to a rectangle, with what either way loses
  const bent = page.getByRole('radio', { name: /^Bent to a rectangle\s*keeps/ });
  await bent.click({ timeout: 60_000 });
  await page.getByRole('button', { name: /Stretch by bending/ }).waitFor({ timeout: 60_000 });
  await finished();
  await page.getByText(/^Cropped: the largest/).scrollIntoViewIfNeeded();
  await bent.getByText(/keeps/).waitFor();
  await keep('panorama-border');
  await page.keyboard.press('2');
  await keep('panorama-fit');
  await kind('focus', 'focus', 'Depth');
  await kind('moments', 'moments');
  // the upper sky as it was an hour later
  await page.getByRole('group', { name: 'This place from one frame' }).getByText('Frame 4').click();
  await page.mouse.move(...at(0.25, 0.15));
  await page.mouse.down();
  await page.mouse.move(...at(0.29, 0.14), { steps: 6 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Leave out point 1, from frame 4' }).waitFor();
  await station('Merge').getByText('not made yet').waitFor();
  await station('Merge').getByText('step across seams').waitFor({ timeout: 60_000 });
  await look('Origin');
  await keep('moments');
  await kind('night', 'stack');
  await page.goto(`${address}/bench?project=demo-plates`);
  await finished();
  await page.keyboard.press('4');
  /** lays a cut-out somewhere, shares of the picture’s long edge and of its own size */
  const lay = async (layer, { across, down, size, mirrored }) => {
    await page.getByRole('row', { name: `Layer ${layer}`, exact: true }).click();
    await page.getByRole('radio', { name: 'Place', exact: true }).click();
    await page.getByRole('slider', { name: 'Across' }).fill(String(across));
    await page.getByRole('slider', { name: 'Down' }).fill(String(down));
    const own = page.getByRole('region', { name: /^Place: / });
    await own.getByRole('slider', { name: 'Size' }).fill(String(Math.log2(size)));
    if (mirrored) await own.getByText('Mirrored').click();
  };
  await lay('cloud', { across: 0.18, down: 0.1, size: 0.42 });
  await lay('moon', { across: 0.93, down: 0.07, size: 0.05 });
  await lay('walker', { across: 0.27, down: 0.315, size: 0.085 });
  await lay('boat', { across: 0.66, down: 0.445, size: 0.17, mirrored: true });
  await lay('heron', { across: 0.405, down: 0.42, size: 0.105, mirrored: true });
  await keep('plates');
  // the sky pointed at by three dabs, as the place of an exposure
  await page.keyboard.press('5');
  const exposure = page.getByRole('button', { name: /^Exposure: / });
  if ((await exposure.getAttribute('aria-expanded')) === 'false') await exposure.click();
  await page.getByRole('slider', { name: 'Exposure' }).fill('-0.8');
  await page.getByRole('button', { name: 'Point at a thing' }).click();
  const dab = async (...points) => {
    await page.mouse.move(...at(...points[0]));
    await page.mouse.down();
    for (const point of points.slice(1)) await page.mouse.move(...at(...point), { steps: 6 });
    await page.mouse.up();
  };
  await dab([0.1, 0.12], [0.3, 0.14]);
  await dab([0.12, 0.36], [0.24, 0.37]);
  await page.getByRole('radio', { name: 'Not this' }).click();
  await dab([0.35, 0.72], [0.5, 0.74]);
  await page.getByText('Cut out, soft edges').waitFor({ timeout: 120_000 });
  await finished();
  await keep('thing');
  // the warden walks through the bracket: painted over, the wall behind him comes from another frame
  await page.goto(`${address}/bench?project=demo-bracket`);
  await finished();
  await page.keyboard.press('5');
  await page.getByRole('button', { name: /^Repair:/ }).click();
  await page.getByRole('button', { name: 'Paint what must go' }).click();
  await dab([0.478, 0.42], [0.478, 0.51]);
  await page.getByText(/shows what lies behind/).waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Paint over it, then press here' }).click();
  await finished();
  await keep('repair');
  // the warden of the demo stood on the boardwalk by the command line, its project opened
  const placed = mkdtempSync(join(tmpdir(), 'marsh-shots-'));
  const facts = {
    ...{ focalPx: 2000, horizonRow: 576, cameraHeight: 1.7 },
    light: { sun: { azimuth: -40, elevation: 14, colour: [1.9, 0.94, 0.32] }, sky: [0.4, 0.36, 0.43] },
  };
  writeFileSync(join(placed, 'facts.json'), JSON.stringify(facts));
  execFileSync(process.execPath, [
    ...['cli/marsh.mjs', 'place', 'demo/frames/mill-03.jpg', 'demo/frames/walker.png'],
    ...['--foot', '330,860', '--metres', '1.7', '--facts', join(placed, 'facts.json')],
    ...['--out', join(placed, 'on-the-boardwalk.png'), '--project', join(placed, 'walk.marsh')],
  ]);
  await page.goto(address);
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open a project file' }).click();
  await (await choosing).setFiles(join(placed, 'walk.marsh'));
  await page.waitForURL(/project=/);
  await finished();
  await page.keyboard.press('6');
  await page.getByRole('button', { name: 'Pull on the picture' }).click();
  await keep('ground');
  rmSync(placed, { recursive: true });
  await page.goto(address);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('button', { name: 'Stand-in camera' }).click();
  const camera = page.getByRole('dialog', { name: /a simulation/ });
  await camera.getByText('Water moves, the warden walks by').click();
  await keep('camera');
} finally {
  await browser.close();
  server.kill();
}
