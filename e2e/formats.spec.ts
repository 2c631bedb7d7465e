import { expect, test } from '@playwright/test';
import exifr from 'exifr';
import { unzipSync } from 'fflate';
import { readFileSync } from 'node:fs';
import { decode as decodeTiff } from 'tiff';
import { cameraRaw } from '@/tests/cameraRaw';
import { benchPage, chooseFormat, downloaded, mergedBracket } from './bench';

const file = (name: string) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: readFileSync(`tests/files/${name}`),
});
const NAMES = [
  ...[
    'lzw16.tif',
    'tiled16.tif',
    'zstd16.tif',
    'lercZstd8.tif',
    'jpegTiled8.tif',
    'float.tif',
    'lossless.webp',
    'truth.avif',
    'truth.jxl',
    'light.exr',
    'light.hdr',
  ],
  ...['wide98.jpg', 'progressive.jpg', 'cmyk.jpg', 'interlaced.png', 'bit1.png'],
];

test('pictures of every format open in the browser', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(NAMES.map(file));
  await expect(page.getByRole('button', { name: /^Frame \d+, / })).toHaveCount(NAMES.length);
  await expect(page.getByRole('main').getByRole('alert').getByRole('listitem')).toHaveCount(0);
});

test('a camera raw file is developed in the browser: white is white, red is red', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const raw = cameraRaw(320, 240, (x, y) =>
    y > 160 ? [0.5, 0.05, 0.05] : x > 160 ? [0.18, 0.18, 0.18] : [0.6, 0.6, 0.6],
  );
  await benchPage(page).choose([
    { name: 'reed.dng', mimeType: 'image/x-adobe-dng', buffer: Buffer.from(raw) },
  ]);
  await expect(page.getByRole('button', { name: /^Frame 1, reed.dng/ })).toBeVisible({ timeout: 60_000 });
  const table = page.getByRole('application', { name: /^Picture/ });
  const box = await table.boundingBox();
  if (!box) throw new Error('no table');
  const codes = async (dx: number, dy: number): Promise<number[]> => {
    await page.mouse.move(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy);
    const readout = page.getByLabel('Under the pointer');
    await expect(readout).toContainText(/x \d+ y \d+ {3}\d+ \d+ \d+/);
    await page.waitForTimeout(400);
    return ((await readout.textContent()) ?? '').split('   ')[1].split(' ').map(Number);
  };
  const [r, g, b] = await codes(-80, -60);
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(8);
  const grey = await codes(90, -60);
  expect(r).toBeGreaterThan(grey[0] + 40);
  const red = await codes(0, 90);
  expect(red[0]).toBeGreaterThan(red[1] + 60);
});

test('the picture leaves as TIFF, as layers and with its disclosure', async ({ page }) => {
  const bench = await mergedBracket(page);
  await bench.go('Layers');
  await page.getByRole('button', { name: 'Add a layer', exact: true }).click();
  await page.getByRole('menuitem', { name: /Frame 3/ }).click();
  await bench.drag([0.3, 0.4], [0.6, 0.6]);
  await bench.go('Finish');
  await chooseFormat(page, 'TIFF, 16 bit');
  await page.getByText('Say in the file that it is a composite').click();
  const tiff = await downloaded(page, 'Deliver the picture');
  expect(tiff.name).toMatch(/\.tif$/);
  const [picture] = decodeTiff(tiff.bytes);
  expect([picture.bitsPerSample, picture.width]).toEqual([16, expect.any(Number)]);
  expect(await exifr.parse(tiff.bytes, { xmp: true })).toMatchObject({
    DigitalSourceType: 'http://cv.iptc.org/newscodes/digitalsourcetype/compositeCapture',
    ISO: 100,
  });
  await chooseFormat(page, 'OpenRaster, layered');
  const layers = await downloaded(page, 'Deliver the picture');
  expect(Object.keys(unzipSync(new Uint8Array(layers.bytes)))).toEqual(
    expect.arrayContaining([
      'mimetype',
      'stack.xml',
      'data/layer0.png',
      'data/layer1.png',
      'mergedimage.png',
    ]),
  );
});
