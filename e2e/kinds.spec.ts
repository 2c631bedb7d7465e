import { expect, type Page, test } from '@playwright/test';
import { benchPage, type BenchPage } from './bench';

/** Opens a demo set and waits until its picture is finished. */
async function opened(page: Page, set: string): Promise<BenchPage> {
  await page.goto(`/bench?project=demo-${set}`);
  const bench = benchPage(page);
  await expect(bench.station('Finish')).not.toContainText(/not made yet|stopped/, { timeout: 150_000 });
  return bench;
}

const kindOf = (page: Page) => page.getByRole('region', { name: 'This set' });

test.describe.configure({ timeout: 240_000 });

test('the shelf offers the demo sets, and the panorama opens from it', async ({ page }) => {
  await page.goto('/');
  const sets = page.getByRole('list', { name: 'Demo sets' });
  await expect(sets.getByRole('listitem')).toHaveCount(11);
  await sets.getByRole('link', { name: /Ferrow marsh, all round seven frames/ }).click();
  const bench = benchPage(page);
  await expect(bench.station('Finish')).not.toContainText(/not made yet/, { timeout: 150_000 });
  await expect(kindOf(page)).toContainText('neighbouring views');
  await expect(page.getByRole('region', { name: 'To make' })).toContainText('level horizon');
  await bench.go('Fit');
  // a heading and six neighbours; frames beyond them may share a strip too
  await expect(page.getByRole('region', { name: 'Neighbours' }).getByRole('row').nth(6)).toBeVisible();
  await bench.go('Merge');
  await expect(page.getByRole('button', { name: /Step across seams/ })).toBeVisible();
  const projections = page.getByRole('radiogroup', { name: 'Projection' });
  await expect(projections.getByRole('radio')).toHaveCount(4);
  // each is drawn as the set is fitted, not only named
  await expect
    .poll(() =>
      projections
        .locator('canvas')
        .evaluateAll((all) => all.map((c) => (c as HTMLCanvasElement).width > 100)),
    )
    .toEqual([true, true, true, true]);
  await expect(projections.getByRole('radio', { name: /^Cylinder/ })).toBeChecked();
  await projections.getByRole('radio', { name: /^Longitude/ }).click();
  await expect(page.getByRole('button', { name: 'Take the recommended one' })).toBeVisible();
  await expect(page.getByRole('button', { name: /Step across seams/ })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Take the recommended one' }).click();
  await expect(projections.getByRole('radio', { name: /^Cylinder/ })).toBeChecked();
  // the blank border: both ways say what is lost
  const borders = page.getByRole('radiogroup', { name: 'Blank border' });
  await expect(borders.getByRole('radio', { name: /^Cropped\s*keeps \d+\s%/ })).toBeChecked({
    timeout: 60_000,
  });
  await borders.getByRole('radio', { name: /^Bent to a rectangle\s*keeps \d+\s%, stretches/ }).click();
  await expect(page.getByRole('button', { name: /Stretch by bending the border/ })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('button', { name: /Picture kept by the crop 9\d/ })).toBeVisible();
  await bench.go('Fit');
  await expect(page.getByText(/codes of 255/)).toBeVisible();
});

test('a column is joined upright', async ({ page }) => {
  const bench = await opened(page, 'column');
  await expect(kindOf(page)).toContainText('neighbouring views');
  await expect(page.getByText(/Frames by tilt/)).toBeVisible();
  await bench.go('Merge');
  await expect(page.getByRole('button', { name: /Picture kept by the crop/ })).toBeVisible();
});

test('a focus set shows which frame is sharp where', async ({ page }) => {
  const bench = await opened(page, 'focus');
  await expect(kindOf(page)).toContainText('sharp in different places');
  await bench.go('Merge');
  await expect(page.getByRole('button', { name: /Sharp in no frame/ })).toBeVisible();
  await page.getByRole('radio', { name: 'Depth' }).click();
  await expect(page.getByRole('radio', { name: 'Depth' })).toBeChecked();
  await expect(page.getByRole('radio', { name: 'Both ways' })).toHaveCount(0);
});

test('moments become layers to paint on', async ({ page }) => {
  const bench = await opened(page, 'moments');
  await expect(kindOf(page)).toContainText('moments to choose from');
  await bench.go('Merge');
  await page.getByRole('button', { name: 'Lay them out as layers to paint on' }).click();
  await bench.go('Layers');
  await expect(page.getByText(/evening-0\d, ground/).first()).toBeVisible();
});

test('a swap takes the part that differs, or what is pointed at in a frame, by pointer and by keyboard', async ({
  page,
}) => {
  const bench = await opened(page, 'swap');
  await expect(kindOf(page)).toContainText('alternates of one subject');
  await bench.go('Merge');
  await expect(page.getByRole('button', { name: /Difference along the joint/ })).toBeVisible();
  const frames = page.getByRole('group', { name: 'This place from one frame' });
  await frames.getByRole('button', { name: 'Frame 2' }).click();
  await expect(page.getByRole('radio', { name: 'One frame' })).toBeChecked();
  // the lantern, where the second frame has it
  await bench.drag([0.275, 0.42], [0.29, 0.43]);
  await expect(page.getByRole('button', { name: /Step across seams/ })).toContainText(/0\.[0-4]\d ΔE/);
  await expect(page.getByRole('radio', { name: 'Result' })).toBeChecked();
  await frames.getByRole('button', { name: 'Frame 1' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Picture, Merge').focus();
  for (const key of ['ArrowRight', 'Enter', 'ArrowRight', 'Enter']) await page.keyboard.press(key);
  await page.getByRole('button', { name: 'Leave out point 2, from frame 1' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Leave out point/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Leave out point 1, from frame 2' }).click();
  await expect(page.getByRole('button', { name: /Difference along the joint/ })).toBeVisible();
});

test('developments need no fit, and the kind can be changed and taken back', async ({ page }) => {
  const bench = await opened(page, 'developments');
  await expect(kindOf(page)).toContainText('developed more than once');
  await page.getByRole('button', { name: /^Two developments/ }).click();
  await page.getByRole('option', { name: 'Bracket' }).click();
  await expect(kindOf(page)).toContainText('Merged as a bracket, as you chose.');
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(kindOf(page)).toContainText('developed more than once');
  await bench.go('Fit');
  await expect(page.getByText('lie on each other as they are')).toBeVisible();
});

test('a stack rejects the satellite and takes the town’s light out', async ({ page }) => {
  const bench = await opened(page, 'night');
  await expect(kindOf(page)).toContainText('starry sky');
  await bench.go('Merge');
  await expect(page.getByRole('button', { name: /Star width/ })).toBeVisible();
  await page.getByRole('button', { name: /^Left as it is/ }).click();
  await page.getByRole('option', { name: 'Taken away' }).click();
  await expect(page.getByRole('button', { name: /^Taken away/ })).toBeVisible();
  await expect(page.getByText('Merging 16 frames')).toHaveCount(0, { timeout: 90_000 });
});

test('the stand-in camera shoots a set on the bench and says what is planted', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('button', { name: 'Stand-in camera' }).click();
  const camera = page.getByRole('dialog', { name: /a simulation/ });
  await camera.getByRole('button', { name: /^None/ }).click();
  await page.getByRole('option', { name: 'White balance of one frame' }).click();
  await expect(camera).toContainText('another white balance on purpose');
  await camera.getByRole('button', { name: 'Shoot' }).click();
  const bench = benchPage(page);
  await expect(bench.station('Finish')).not.toContainText(/not made yet/, { timeout: 120_000 });
  await expect(kindOf(page)).toContainText('3 frames of one size');
  await expect(page.getByRole('button', { name: /White balance apart/ })).toContainText('EV');
  await expect(bench.station('Frames')).toContainText(/white balance apart/i);
});

test('a panorama of brackets: each view is merged first, then the views are joined', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('button', { name: 'Stand-in camera' }).click();
  const camera = page.getByRole('dialog', { name: /a simulation/ });
  await camera.getByRole('button', { name: /^Bracket/ }).click();
  await page.getByRole('option', { name: 'Panorama' }).click();
  await camera.getByRole('slider', { name: 'Exposures' }).fill('3');
  await camera.getByRole('slider', { name: 'Frames' }).fill('2');
  await camera.getByRole('button', { name: 'Shoot' }).click();
  const bench = benchPage(page);
  await expect(bench.station('Finish')).not.toContainText(/not made yet/, { timeout: 150_000 });
  await expect(kindOf(page)).toContainText('2 views with 3 frames each');
  await bench.go('Merge');
  await expect(page.getByText('2 merged', { exact: false })).toBeVisible();
  await expect(page.getByText('merged into its view')).toHaveCount(4);
  await page.getByText('Merge each view first').click();
  await expect(page.getByText('6 merged', { exact: false })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('merged into its view')).toHaveCount(0);
});

test('cut-outs lie over a frame as layers and are moved by hand and by key', async ({ page }) => {
  const bench = await opened(page, 'plates');
  await bench.go('Layers');
  const layers = page.getByRole('grid', { name: 'Layers, far to near' });
  await expect(layers.getByRole('row')).toHaveCount(6);
  await layers.getByRole('row', { name: 'Layer boat' }).click();
  await page.getByRole('radio', { name: 'Place' }).click();
  const place = page.getByRole('region', { name: 'Place: boat' });
  const across = place.getByRole('slider', { name: 'Across' });
  const before = Number(await across.inputValue());
  await place.getByRole('button', { name: 'Move on the picture' }).click();
  const table = page.getByRole('application');
  const box = await table.boundingBox();
  if (!box) throw new Error('no table');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 120, box.y + box.height / 2 + 40, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => Number(await across.inputValue())).toBeGreaterThan(before + 0.05);
  await place.getByRole('slider', { name: 'Size' }).focus();
  await page.keyboard.press('ArrowLeft');
  await place.getByText('Mirrored').click();
  await expect(page.getByText('Stopped', { exact: true })).toHaveCount(0);
});
