import { expect, type Page, test } from '@playwright/test';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { linearToSrgb } from '@/core/raster/srgb';
import { nodePlatform } from '@/engine/nodePlatform';
import { seenFrom } from '@/tests/nearAndFar';
import { paint, waves } from '@/tests/paint';
import { type SmallFile } from '@/tests/smallBracket';
import { benchPage, type BenchPage } from './bench';

test.describe.configure({ timeout: 240_000 });

const [fine, wide] = [waves(61, 40), waves(62, 16)];
/** what is seen, 0…1 */
const seen = (x: number, y: number): number => 0.1 + 0.45 * fine(x, y) + 0.35 * wide(x, y);

/** fine structure, the same at the same place, 0…1 */
const grain = (x: number, y: number): number => {
  const cell = Math.sin(127.1 * Math.floor(x / 3) + 311.7 * Math.floor(y / 3)) * 43758.5453;
  return cell - Math.floor(cell);
};

/** A view of it as a file. @param at where each pixel looks @param stops of the exposure */
async function view(
  name: string,
  [width, height]: readonly [number, number],
  at: (x: number, y: number) => readonly [number, number],
  light: (x: number, y: number) => number = (x, y) => seen(x, y) ** 2.2,
  stops = 0,
): Promise<SmallFile> {
  const image = paint(width, height, (x, y) => {
    const code = linearToSrgb(Math.min(1, light(...at(x, y)) * 2 ** stops));
    return [code, 0.96 * code, 0.9 * code];
  });
  const jpeg = await encodeJpeg(image, 95, nodePlatform().encodeJpeg);
  const file = writeExif(jpeg, { seconds: 2 ** stops / 60, aperture: 8, iso: 100 });
  return { name, mimeType: 'image/jpeg', buffer: Buffer.from(file) };
}

/** Where a pixel looks that is turned about the middle, scaled and shifted. */
const turned =
  (degrees: number, scale: number, [dx, dy]: readonly [number, number]) =>
  (x: number, y: number): readonly [number, number] => {
    const [u, v] = [(x - 300) * scale, (y - 200) * scale];
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return [300 + c * u - s * v + dx, 200 + s * u + c * v + dy];
  };

/** Opens a project of files on the station Fit, as a user does. */
async function fitted(page: Page, files: readonly SmallFile[]): Promise<BenchPage> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  const bench = benchPage(page);
  await bench.choose(files);
  await bench.ready('Fit');
  await bench.go('Fit');
  return bench;
}

const cards = (page: Page) => page.getByRole('list', { name: /^Frames/ }).getByRole('button');

/** Largest error that a card of the tray tells, pixels. */
async function worst(page: Page): Promise<number> {
  const texts = await cards(page).allTextContents();
  return Math.max(...texts.map((text) => Number(/to ([\d.]+) px/.exec(text)?.[1] ?? 0)));
}

test('views taken by hand, turned and larger, and a crop of another size are fitted', async ({ page }) => {
  const size = [600, 400] as const;
  const files = [
    await view('a.jpg', size, (x, y) => [x, y]),
    await view('b.jpg', size, turned(13, 0.9, [22, -9])),
    // an export of a part at four fifths of its size
    await view('c.jpg', [384, 272], (x, y) => [80 + 1.25 * x, 30 + 1.25 * y]),
  ];
  const bench = await fitted(page, files);
  await expect(cards(page)).toHaveCount(3, { timeout: 60_000 });
  // what is of another size is not used unasked
  await cards(page).nth(2).click();
  await bench.go('Frames');
  await page.getByText('Use in fit and merge').click();
  await bench.ready('Fit');
  await bench.go('Fit');
  await expect(page.getByRole('heading', { name: /3 of 3 fitted/ })).toBeVisible({ timeout: 60_000 });
  expect(await worst(page)).toBeLessThan(1);
  await expect(page.getByRole('button', { name: /Scale change, largest/ })).toBeVisible();
});

test('a bracket whose ends share nothing with the reference is fitted from exposure to exposure', async ({
  page,
}) => {
  const size = [600, 400] as const;
  // thirteen stops from left to right, a frame shows six of them
  const light = (x: number, y: number): number =>
    2 ** (-13 + (13 * x) / 600) * (0.15 + 0.4 * seen(x, y) + 0.45 * grain(x, y));
  const files = await Promise.all(
    [-6, -4, -2, 0, 2, 4, 6].map((stops, i) =>
      view(`e-${i}.jpg`, size, (x, y) => [x + 5 * i, y - 3 * i], light, stops + 3),
    ),
  );
  await fitted(page, files);
  await expect(cards(page)).toHaveCount(7, { timeout: 60_000 });
  await expect(page.getByRole('button', { name: /Frames left out 0$/ })).toBeVisible({ timeout: 60_000 });
  expect(await worst(page)).toBeLessThan(1);
});

test('frames of a camera that moved before a wall in folds are bent onto each other by one button, and back by a key', async ({
  page,
}) => {
  const far = (x: number): number => 8 * Math.sin(x / 50);
  const scene = { width: 420, height: 280, near: [-7, 6], far } as const;
  const files = await Promise.all(
    (['reference', 'frame'] as const).map(async (from, i): Promise<SmallFile> => {
      const image = seenFrom(scene, from, i, i + 1);
      const jpeg = await encodeJpeg(image, 97, nodePlatform().encodeJpeg);
      const file = writeExif(jpeg, { seconds: 2 ** i / 60, aperture: 8, iso: 100 });
      return { name: `${from}.jpg`, mimeType: 'image/jpeg', buffer: Buffer.from(file) };
    }),
  );
  await fitted(page, files);
  await expect(page.getByRole('heading', { name: /1 of 2 fitted/ })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Bend it' }).click();
  await expect(page.getByRole('heading', { name: /2 of 2 fitted/ })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/^Bent by [\d.]+ px/)).toBeVisible();
  await expect(cards(page).filter({ hasText: /bent, 0\.\d\d px left/ })).toHaveCount(1);
  const bend = page.getByRole('checkbox', { name: /^Bend/ });
  await expect(bend).toBeChecked();
  await bend.focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: /1 of 2 fitted/ })).toBeVisible({ timeout: 60_000 });
});
