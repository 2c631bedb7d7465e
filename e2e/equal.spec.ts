import { expect, test } from '@playwright/test';
import { decode } from 'fast-png';
import { packProject } from '@/core/codecs/packProject';
import { randomSource } from '@/core/raster/random';
import { finishedPicture } from '@/store/deliver';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, smallProject, takeSteps } from '@/tests/smallProject';
import { benchPage, downloaded } from './bench';

/** random recipes that are drawn in every run; more of them by hand */
const RECIPES = Number(process.env.RECIPES ?? 2);
const STEPS = 40;

test(`${RECIPES} random recipes: what the browser delivers is what Node draws, to the bit`, async ({
  page,
}) => {
  test.setTimeout(120_000 + RECIPES * 30_000);
  const pool = inlinePool(2);
  const start = await smallProject(pool);
  const bench = benchPage(page);
  for (let k = 0; k < RECIPES; k++) {
    const own = await reopened(pool, start);
    takeSteps(own, randomSource(1000 + k), STEPS, `r${k}`);
    await settled(own);
    const drawn = await finishedPicture(own, 65535, 0);
    const { project } = own.store.getState().history;
    // what was measured is measured anew over there
    const packed = packProject({
      project: { ...project, id: `r${k}`, made: {} },
      originals: start.originals,
    });
    await own.actions.close();
    await page.goto('/');
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Open a project file' }).click();
    const file = { name: `recipe-${k}.marsh.zip`, mimeType: 'application/zip', buffer: Buffer.from(packed) };
    await (await chooser).setFiles(file);
    await bench.ready('Finish');
    await bench.go('Finish');
    const { bytes } = await downloaded(page, 'Deliver the picture');
    const { data, width, height } = decode(bytes);
    expect([width, height], `recipe ${k}`).toEqual([drawn.width, drawn.height]);
    let differing = 0;
    for (let i = 0; i < data.length; i++) if (data[i] !== drawn.data[i]) differing++;
    expect(differing, `recipe ${k}`).toBe(0);
  }
  pool.close();
});
