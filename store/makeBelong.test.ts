import { expect, test } from '@jest/globals';
import { encode } from 'fast-png';
import { projectBench } from '@/cli/projectBench';
import { belong } from '@/core/ground/belong';
import { outlineOf } from '@/core/ground/outline';
import { findLayer } from '@/core/layers/layer';
import { emptyProject } from '@/core/recipe/emptyProject';
import { parseProject } from '@/core/recipe/parseProject';
import { inlinePool } from '@/tests/inlinePool';
import { settled } from '@/tests/smallProject';
import { smallBracket } from '@/tests/smallBracket';
import { addFiles, type NewFile } from './addFiles';
import { finishedPicture } from './deliver';
import { setPlace } from './edits/layers';
import { laySpace, setCamera, turnSun } from './edits/stand';
import { firstSpace, makeBelong } from './makeBelong';
import { platesOnGround } from './standingPlates';

/** A post with a round top on nothing, lit from the left. */
function post(): NewFile {
  const [width, height] = [80, 160];
  const data = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const inside = Math.abs(x - 40) < 18 && y > 20 && y < 150;
      const shade = 0.35 + 0.5 * Math.max(0, (40 - x) / 18);
      data.set([200 * shade, 180 * shade, 150 * shade, inside ? 255 : 0], 4 * (y * width + x));
    }
  const bytes = encode({ width, height, data, channels: 4 });
  return { name: 'post.png', read: () => Promise.resolve(new Uint8Array(bytes)) };
}

test('the button makes the recipe that the computation makes, keeps it, and what is known later is taken over', async () => {
  const bench = projectBench(inlinePool(2), emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'));
  const frames = await smallBracket();
  await addFiles(
    bench,
    frames.map(({ name, buffer }) => ({ name, read: () => Promise.resolve(new Uint8Array(buffer)) })),
  );
  await addFiles(bench, [post()]);
  await settled(bench);
  const now = () => bench.store.getState().history.project;
  const [plate] = platesOnGround(now());
  const { id } = plate.layer;
  expect(await makeBelong(bench, 'nobody')).toHaveProperty('why');
  const first = firstSpace(now());
  if (!first) throw new Error('no picture');
  bench.actions.edit('laid', laySpace(first));
  bench.actions.edit('put down', setPlace(id, { x: 0.6, y: 0.4, size: 0.3 }));
  await settled(bench);
  const done = await makeBelong(bench, id);
  if (!('told' in done)) throw new Error(done.why);
  expect([done.told.horizonRow.how, done.told.light.how]).toEqual(['given', 'assumed']);
  // the same by the computation alone, on the same pixels
  const state = bench.store.getState();
  const picture = state.merged[now().base].scene.levels[0];
  const { levels } = state.decoded[plate.frame.hash];
  const outline = outlineOf(levels[0]);
  const [own] = platesOnGround(now());
  if (!outline || !own.foot || !own.tall) throw new Error('it stands nowhere');
  const long = Math.max(picture.width, picture.height);
  const { camera } = first;
  const wish = { foot: own.foot, plateFoot: outline.foot, height: { metres: own.tall } };
  const made = belong(picture, levels, wish, {
    focalPx: camera.focal * long,
    principal: [camera.principal[0] * long, camera.principal[1] * long],
    horizonRow: camera.horizon * long,
    cameraHeight: camera.height,
    water: false,
  });
  const layer = () => findLayer(now().layers, id);
  const place = layer()?.place;
  expect(place?.size).toBeCloseTo(made?.place.size ?? 0, 6);
  expect(place?.x).toBeCloseTo(made?.place.x ?? 0, 6);
  expect(layer()?.stand).toMatchObject({ relight: 0, shadow: 0, light: made?.stand.light });
  expect(now().space?.light.sky[1]).toBeCloseTo(made?.space.light.sky[1] ?? 0, 9);
  expect(parseProject(JSON.parse(JSON.stringify(now())), 'kept')).toEqual(now());
  await settled(bench);
  // once the sun is known it darkens the ground and relights the post; the rest of the picture stays
  const before = await finishedPicture(bench, 65535, 0);
  bench.actions.edit('sun', turnSun({ azimuth: 60, elevation: 30 }));
  await settled(bench);
  const after = await finishedPicture(bench, 65535, 0);
  const changed = Array.from(after.data).filter((v, i) => Math.abs(v - before.data[i]) > 600).length;
  expect(changed).toBeGreaterThan(2000);
  expect(changed).toBeLessThan(0.25 * after.data.length);
  // above the horizon there is nothing to stand on
  bench.actions.edit('up', setCamera({ horizon: 0.9 }));
  expect(await makeBelong(bench, id)).toEqual({ why: expect.stringContaining('above the horizon') });
  await bench.actions.close();
}, 120_000);
