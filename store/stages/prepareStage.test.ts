import { expect, test } from '@jest/globals';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { emptyImage } from '@/core/raster/encodedImage';
import { setGraph } from '@/core/recipe/setGraph';
import { emptyProject } from '@/core/recipe/emptyProject';
import { nodePlatform } from '@/engine/nodePlatform';
import { inlinePool } from '@/tests/inlinePool';
import { paint, waves } from '@/tests/paint';
import { settled } from '@/tests/smallProject';
import { addFiles } from '../addFiles';
import { finishedPicture } from '../deliver';
import { setHow } from '../edits/sets';
import { measuresOf, preparedLevels } from '../madePixels';
import { readFrame } from '../readFrames';
import { activeScope } from '../activeSet';
import { projectBench } from '@/cli/projectBench';
import { whenState } from '../whenState';

const [W, H] = [1160, 320];
const SPOT = { x: 700, y: 90 };

/** Three frames of a handheld bracket of a sky over rough ground, a speck of dust at the same place of each. */
async function dustyBracket() {
  const { encodeJpeg: encode } = nodePlatform();
  const [ground, clouds] = [waves(5, 20), waves(9, 16)];
  return Promise.all(
    [-1, 0, 1].map(async (stops, i) => {
      const image = paint(W, H, (x, y) => {
        const far2 = (x - SPOT.x) ** 2 + (y - SPOT.y) ** 2;
        const through = 1 - 0.2 * Math.exp(-far2 / 50);
        const sky = (0.16 + 0.0003 * y) * 2 ** (0.02 * clouds(x / 5 + 3 * i, y / 5));
        const light = y > 180 ? 0.03 * 2 ** (1.2 * ground(x + 5 * i, y)) : sky;
        const code = (v: number): number => (v * 2 ** stops * through) ** (1 / 2.2);
        return [code(light), code(light), code(1.2 * light)];
      });
      const file = writeExif(await encodeJpeg(image, 97, encode), {
        seconds: 2 ** stops / 60,
        aperture: 22,
        iso: 100,
      });
      return { name: `sky-${i}.jpg`, read: () => Promise.resolve(new Uint8Array(file)) };
    }),
  );
}

test('dust that all frames show is gone from what is merged of them, and comes back when it is left as it was shot', async () => {
  const bench = projectBench(inlinePool(2), emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'));
  await addFiles(bench, await dustyBracket());
  await settled(bench);
  await whenState(bench.store, (s) => {
    const scope = activeScope(s);
    return scope !== undefined && measuresOf(s, scope) !== undefined;
  });
  const { sets } = bench.store.getState().history.project;
  /** light in the middle of the spot against that beside it */
  const dip = async (): Promise<number> => {
    const { width, data } = await finishedPicture(bench, 65535, 0);
    // the crop takes some pixels from the border: the darkest place near the spot
    const at = (x: number, y: number): number => data[3 * (y * width + x) + 1];
    let least = Infinity;
    for (let y = SPOT.y - 16; y < SPOT.y + 17; y++)
      for (let x = SPOT.x - 16; x < SPOT.x + 17; x++) least = Math.min(least, at(x, y));
    return least / at(SPOT.x + 45, SPOT.y);
  };
  const before = await dip();
  bench.actions.edit('dust', setHow(sets[0].id, { prepare: { balance: 'shot', dust: true } }));
  await settled(bench);
  const after = await dip();
  expect(before).toBeLessThan(0.95);
  expect(1 - after).toBeLessThan(0.4 * (1 - before));
  // a frame whose pixels did not stay is prepared alike when they are read again
  const state = bench.store.getState();
  const scope = activeScope(state);
  const [frame] = scope?.frames ?? [];
  const node = scope && setGraph(scope).prepared.get(frame.id);
  if (!scope || node === undefined) throw new Error('nothing is prepared');
  const [prepared] = preparedLevels(state, scope, frame);
  const again = emptyImage(prepared.width, prepared.height, prepared.white);
  await readFrame(state, bench.originals, bench.pool, node, again);
  expect(Buffer.compare(again.data as Uint8Array, prepared.data as Uint8Array)).toBe(0);
  bench.actions.edit('as shot', setHow(sets[0].id, { prepare: { balance: 'shot' } }));
  await settled(bench);
  expect(await dip()).toBeCloseTo(before, 6);
  await bench.actions.close();
}, 90_000);
