import { beforeAll, expect, test } from '@jest/globals';
import { projectBench } from '@/cli/projectBench';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { parseProject } from '@/core/recipe/parseProject';
import { emptyProject } from '@/core/recipe/emptyProject';
import { inlinePool } from '@/tests/inlinePool';
import { settled } from '@/tests/smallProject';
import { turnedFrames } from '@/tests/turnedFrames';
import { activeScope } from './activeSet';
import { addFiles, type NewFile } from './addFiles';
import { type Bench } from './benchState';
import { finishedPicture } from './deliver';
import { areDrawn, isOdd, leaveAsShot, likeOf, makeLikeNeighbours, neighboursOf } from './neighbours';
import { whenState } from './whenState';

/** A panorama of three, as it was shot, and with a curve in the middle one. */
let plain: NewFile[];
let odd: NewFile[];

beforeAll(async () => {
  const filesOf = async (isOdd: boolean): Promise<NewFile[]> =>
    (await turnedFrames(isOdd)).map(({ name, buffer }) => ({
      name,
      read: () => Promise.resolve(new Uint8Array(buffer)),
    }));
  [plain, odd] = [await filesOf(false), await filesOf(true)];
}, 60_000);

async function benchWith(files: readonly NewFile[]): Promise<Bench> {
  const bench = projectBench(inlinePool(2), emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'));
  await addFiles(bench, files);
  await settled(bench);
  return bench;
}

const scopeIn = (bench: Bench) => {
  const scope = activeScope(bench.store.getState());
  if (!scope) throw new Error('a project without a set');
  return scope;
};

const BLOCK = 16;

/** Mean difference of blocks of two pictures, codes of 255: a crop that lies a pixel elsewhere is no other tone. */
async function apart(a: Bench, b: Bench): Promise<number> {
  const [p, q] = [await finishedPicture(a, 65535, 0), await finishedPicture(b, 65535, 0)];
  const [w, h] = [p, q].reduce(
    (least, { width, height }) => [Math.min(least[0], width), Math.min(least[1], height)],
    [Infinity, Infinity],
  );
  let sum = 0;
  let blocks = 0;
  for (let y = 0; y + BLOCK <= h; y += BLOCK)
    for (let x = 0; x + BLOCK <= w; x += BLOCK)
      for (let c = 0; c < 3; c++, blocks++) sum += Math.abs(meanOf(p, x, y, c) - meanOf(q, x, y, c));
  return sum / blocks / 257;
}

function meanOf({ width, data }: EncodedImage, left: number, top: number, c: number): number {
  let sum = 0;
  for (let y = top; y < top + BLOCK; y++)
    for (let x = left; x < left + BLOCK; x++) sum += data[3 * (y * width + x) + c];
  return sum / BLOCK ** 2;
}

test('the odd frame of a panorama is named, made like its neighbours, and left as shot again', async () => {
  const truth = await benchWith(plain);
  const bench = await benchWith(odd);
  expect(scopeIn(bench).set.kind).toBe('panorama');
  expect((await neighboursOf(truth, 'set', {})).filter(isOdd)).toEqual([]);
  const found = await neighboursOf(bench, 'set', {});
  expect(found.filter(isOdd).map((n) => n.frame.file)).toEqual(['turned-1.jpg']);
  const before = await apart(bench, truth);
  makeLikeNeighbours(bench, scopeIn(bench), found[1], 'made alike');
  await whenState(bench.store, (s) => areDrawn(s, scopeIn(bench)));
  await settled(bench);
  const after = await apart(bench, truth);
  expect(after).toBeLessThan(0.5 * before);
  const now = await neighboursOf(bench, 'set', {});
  expect(now.filter(isOdd)).toEqual([]);
  // it stays with the recipe
  const { project } = bench.store.getState().history;
  expect(parseProject(JSON.parse(JSON.stringify(project)), 'p.marsh').sets[0].prepare.like).toHaveLength(1);
  leaveAsShot(bench, scopeIn(bench), found[1].frame, 'as shot');
  await settled(bench);
  expect(likeOf(scopeIn(bench), found[1].frame.id)).toBeUndefined();
  expect(await apart(bench, truth)).toBeCloseTo(before, 1);
  await Promise.all([bench.actions.close(), truth.actions.close()]);
}, 120_000);
