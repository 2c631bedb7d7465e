import { expect, test } from '@playwright/test';
import jpeg from 'jpeg-js';
import { PNG } from 'pngjs';
import { chooseFormat, downloaded, mergedBracket } from './bench';

const samples = (bytes: Buffer) => {
  const png = PNG.sync.read(bytes, { skipRescale: true });
  // the reader hands 16-bit samples over as bytes of native order
  return { ...png, data: new Uint16Array(png.data.buffer, png.data.byteOffset, png.width * png.height * 4) };
};

test('dropped files become a delivered 16-bit file with one region painted in from a single frame', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await expect(bench.station('Fit')).toContainText('px');

  await bench.go('Finish');
  const before = samples((await downloaded(page, 'Deliver the picture')).bytes);
  expect(before.depth).toBe(16);
  // six pixels are lost on either side, and up to one on each edge to the error of the fit
  expect(Math.abs(before.width - 588)).toBeLessThanOrEqual(2);
  expect(Math.abs(before.height - 400)).toBeLessThanOrEqual(2);

  // the light frame painted in, hard, over the middle
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
  await page.getByRole('menuitem', { name: /Frame 3/ }).click();
  await page.getByRole('slider', { name: 'Softness' }).fill('0');
  await bench.drag([0.45, 0.5], [0.55, 0.5]);
  await expect(page.getByRole('row', { name: 'Layer shot-2' })).toContainText('1 stroke');

  await bench.go('Finish');
  const after = samples((await downloaded(page, 'Deliver the picture')).bytes);
  const green = (image: typeof after, x: number, y: number): number =>
    image.data[(y * image.width + x) * 4 + 1];
  // in the corner nothing changed; in the middle there is the light frame, two stops above the reference
  for (const [x, y] of [
    [5, 5],
    [580, 8],
    [20, 385],
  ])
    expect(green(after, x, y)).toBe(green(before, x, y));
  expect(green(after, 294, 200)).toBeGreaterThan(green(before, 294, 200) + 2000);

  // and square as JPEG
  await page.getByRole('radio', { name: '1:1' }).click();
  await chooseFormat(page, 'JPEG');
  const square = await downloaded(page, 'Deliver the picture');
  const read = jpeg.decode(square.bytes, { useTArray: true });
  expect(square.name).toBe('untitled-picture.jpg');
  expect(read.width).toBe(read.height);
  expect(Math.abs(read.width - 400)).toBeLessThanOrEqual(2);
});

test('a pen paints by its pressure: what is drawn lightly is melted in, what is pressed is there whole', async ({
  page,
}) => {
  const bench = await mergedBracket(page);
  await bench.go('Finish');
  const before = samples((await downloaded(page, 'Deliver the picture')).bytes);
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
  await page.getByRole('menuitem', { name: /Frame 3/ }).click();
  await page.getByRole('slider', { name: 'Softness' }).fill('0');
  await bench.pen(0.3, [0.42, 0.4], [0.58, 0.4]);
  await bench.pen(1, [0.42, 0.6], [0.58, 0.6]);
  await expect(page.getByRole('row', { name: 'Layer shot-2' })).toContainText('2 strokes');
  await bench.go('Finish');
  const after = samples((await downloaded(page, 'Deliver the picture')).bytes);
  // the same place of the picture's middle column, in both halves: how far it went towards the painted frame
  const gained = (from: number, to: number): number => {
    let sum = 0;
    for (let y = Math.round(from * after.height); y < to * after.height; y++) {
      const at = (y * after.width + (after.width >> 1)) * 4 + 1;
      sum += after.data[at] - before.data[at];
    }
    return sum;
  };
  const [light, full] = [gained(0.25, 0.5), gained(0.5, 0.75)];
  expect(full).toBeGreaterThan(20_000);
  expect(light / full).toBeGreaterThan(0.15);
  expect(light / full).toBeLessThan(0.6);
});

test('the project file opens in another browser with the same picture', async ({ page, browser }) => {
  const bench = await mergedBracket(page);
  await bench.go('Finish');
  await page.getByRole('radio', { name: '2:3' }).click();
  const before = samples((await downloaded(page, 'Deliver the picture')).bytes);
  const project = await downloaded(page, 'Save the project file');
  expect(project.name).toBe('untitled-picture.marsh.zip');

  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await other.goto('/');
  const chooser = other.waitForEvent('filechooser');
  await other.getByRole('button', { name: 'Open a project file' }).click();
  await (await chooser).setFiles({ name: project.name, mimeType: 'application/zip', buffer: project.bytes });
  await expect(
    other.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name: /Finish/ }),
  ).toContainText('MP', { timeout: 60_000 });
  await other
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('button', { name: /Finish/ })
    .click();
  const after = samples((await downloaded(other, 'Deliver the picture')).bytes);
  expect(Buffer.compare(Buffer.from(after.data), Buffer.from(before.data))).toBe(0);
  await elsewhere.close();
});
