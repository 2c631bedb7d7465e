import { expect, test } from '@playwright/test';
import { benchPage, downloaded } from './bench';

test('the demo opens from the shelf, is fitted and merged, and asks no other origin for anything', async ({
  page,
  baseURL,
}) => {
  const foreign: string[] = [];
  const errors: string[] = [];
  page.on('request', (r) => {
    if (!r.url().startsWith(String(baseURL)) && !/^(blob|data):/.test(r.url())) foreign.push(r.url());
  });
  page.on('console', (m) => m.type() === 'error' && errors.push(m.text()));
  page.on('pageerror', (e) => errors.push(e.message));
  await page.goto('/');
  await page.getByRole('link', { name: /Ferrow tide mill, dusk five/ }).click();
  const bench = benchPage(page);
  await bench.ready('Finish');
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  await page.keyboard.press('2');
  await expect(page.getByRole('complementary')).toContainText('All frames lie on each other');
  // frames on the axis of stops
  await expect(
    page.getByRole('img', { name: 'Along the exposure: −4.0 EV, −2.0 EV, 0.0 EV, +2.0 EV, +4.0 EV' }),
  ).toBeVisible();
  for (const look of ['Blink', 'Wipe', 'Residual']) {
    await page.getByRole('radio', { name: look }).click();
    await expect(page.getByRole('radio', { name: look })).toBeChecked();
  }
  await page.keyboard.press('3');
  await page.getByRole('radio', { name: 'Origin' }).click();
  await expect(page.getByLabel('Colours of the frames')).toContainText('Frame 5');
  // what lies under the pointer
  await bench.table.hover();
  await expect(page.getByLabel('Under the pointer')).toContainText(/x \d+ y \d+ .*from \d:\d+%/);
  expect(foreign).toEqual([]);
  expect(errors).toEqual([]);
});

test('headers isolate the page and allow this origin only', async ({ request }) => {
  const page = await request.get('/bench?project=demo');
  expect(page.headers()).toMatchObject({
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-embedder-policy': 'require-corp',
    'x-content-type-options': 'nosniff',
  });
  expect(page.headers()['content-security-policy']).toContain("default-src 'self'");
  expect(page.headers()['content-security-policy']).not.toContain('http:');
  expect(await (await request.get('/api/health')).json()).toEqual({ ok: true });
  const manifest = (await (await request.get('/api/demo')).json()) as {
    sets: { id: string; frames: { url: string }[] }[];
  };
  expect(manifest.sets.find((s) => s.id === 'bracket')?.frames).toHaveLength(5);
  expect((await request.get(manifest.sets[0].frames[0].url)).headers()['content-type']).toBe('image/jpeg');
  for (const name of ['..%2F..%2Fpackage.json', 'plan.json', 'mill-99.jpg'])
    expect((await request.get(`/api/demo/${name}`)).status()).toBe(404);
});

test('the keyboard alone walks the stations, opens a finding and its place, and zooms to 1:1', async ({
  page,
}) => {
  await page.goto('/bench?project=demo');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await page.keyboard.press('7');
  await expect(bench.station('Finish')).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: /Worst place/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Worst place/ })).toHaveAttribute('aria-expanded', 'true');
  const zoom = page.getByRole('button', { name: 'Between the whole picture and 1:1' });
  await expect(zoom).not.toContainText('37 %');
  await page.keyboard.press('.');
  await expect(zoom).toContainText('37 %');
  await page.keyboard.press('.');
  await expect(zoom).toContainText('100 %');
  await page.keyboard.press('v');
  await expect(page.getByRole('radio', { name: 'Blink' })).toBeChecked();
});

test('any command is found by its name, and the record leaves as Markdown', async ({ page }) => {
  await page.goto('/bench?project=demo');
  const bench = benchPage(page);
  await bench.ready('Finish');
  await page.keyboard.press('f');
  await page.keyboard.type('go to fin');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(bench.station('Finish')).toHaveAttribute('aria-current', 'step');
  await page.getByRole('button', { name: 'Record' }).click();
  const { name, bytes } = await downloaded(page, 'Save as Markdown');
  expect(name).toBe('ferrow-tide-mill-dusk-record.md');
  expect(bytes.toString()).toContain('| mill-01.jpg (reference) | 1980 × 1320 | 0 EV |');
  expect(bytes.toString()).toMatch(/\| Fit \| Typical error \| 0\.\d+ px \| pass \|/);
});

test('a set opens as it was finished, and its record names every step', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'The warden’s lantern: as finished by us, with its record' }).click();
  const bench = benchPage(page);
  await bench.ready('Proof');
  await expect(page.getByRole('checkbox', { name: 'Glow on' })).toBeChecked();
  await page.getByRole('button', { name: 'Record' }).click();
  await expect(page.getByText('The lantern and the windows glow')).toBeVisible();
  // from now on a project of its own on the shelf
  await page.goto('/');
  const projects = page.getByRole('list', { name: 'Projects' });
  await expect(projects.getByRole('link', { name: /The warden’s lantern, finished/ })).toBeVisible();
});
