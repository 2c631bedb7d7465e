import { afterEach, beforeAll, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { factsOf, shootView } from '@/camera/shootView';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { emptyProject } from '@/core/recipe/emptyProject';
import { fitOf, mergedFrames, panoramaOf } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { viewsOf } from '@/core/recipe/views';
import { nodePlatform } from '@/engine/nodePlatform';
import { millAtDusk } from '@/tests/knownScene';
import { liveBench, until } from '@/tests/liveBench';
import { baseOf } from '@/tests/sampleProject';
import { addFiles } from '../addFiles';
import { type Bench } from '../benchState';
import { setScene } from '../buildScene';
import { pictureMade } from '../madePixels';
import { setUsed } from '../edits/frames';
import { setOther } from '../edits/sets';

const STOPS = [-2, 0, 2];
const YAWS = [-10, 2];
let files: { name: string; read: () => Promise<Uint8Array> }[];
let bench: Bench;

beforeAll(async () => {
  const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
  const { encodeJpeg: encode } = nodePlatform();
  files = await Promise.all(
    YAWS.flatMap((yaw, v) =>
      STOPS.map(async (stops, k) => {
        const shot = {
          width: 420,
          height: 280,
          lens: { ...PLAIN_LENS, focalLength: 60 },
          // a hand that does not hold quite still between the exposures of a view
          stand: { yaw: yaw + 0.05 * k, pitch: 0.03 * k, roll: 0 },
          seconds: 0.5 * 2 ** stops,
          iso: 100,
          seed: 10 * v + k,
        };
        const taken = new Date(Date.parse('2026-10-03T18:00:00Z') + 60000 * v + 1200 * k);
        const jpeg = await encodeJpeg(shootView(scene, shot).image, 95, encode);
        const bytes = writeExif(jpeg, factsOf(shot, taken.toISOString().slice(0, 23)));
        return { name: `view-${v}-${k}.jpg`, read: () => Promise.resolve(bytes) };
      }),
    ),
  );
});
afterEach(() => bench.actions.close());

const project = (): Project => bench.store.getState().history.project;
const base = () => baseOf(project());
test('a bracketed panorama: each view is merged first, then the views are joined; or all frames as they are', async () => {
  const empty = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  bench = liveBench(empty);
  await addFiles(bench, files);
  await until(bench, () => bench.store.getState().merged['set'] !== undefined);
  expect(base().set.kind).toBe('panorama');
  expect(base().set.why).toContain('2 views with 3 frames each');
  const views = viewsOf(base());
  expect(views.map((v) => v.frames.map((f) => f.file))).toEqual([
    ['view-0-0.jpg', 'view-0-1.jpg', 'view-0-2.jpg'],
    ['view-1-0.jpg', 'view-1-1.jpg', 'view-1-2.jpg'],
  ]);
  // the heads alone are joined, the others lie on the reference through them
  expect(mergedFrames(base()).map(({ frame }) => frame.id)).toEqual(views.map((v) => v.head.id));
  expect(panoramaOf(base())?.frames).toHaveLength(2);
  expect(base().frames.every((f) => fitOf(base(), f)?.fitted)).toBe(true);
  const pictureOf = (id: string) =>
    pictureMade(bench.store.getState(), setGraph(base()).views.get(id)?.picture);
  expect(views.every((v) => pictureOf(v.head.id))).toBe(true);
  // light and shadow at once: hardly anything clipped, though the light frames are
  const clippedOf = ({ data, white }: EncodedImage): number => {
    let n = 0;
    for (const v of data) if (v >= 0.99 * white) n++;
    return n / data.length;
  };
  const lightest = bench.store.getState().decoded[views[0].frames[2].hash].levels[0];
  expect(clippedOf(lightest)).toBeGreaterThan(0.01);
  expect(clippedOf((pictureOf(views[0].head.id) ?? [])[0])).toBeLessThan(0.2 * clippedOf(lightest));
  const { key } = bench.store.getState().merged['set'];

  // a frame left out: its view alone is made anew
  const [first, second] = views.map((v) => pictureOf(v.head.id));
  const out = views[0].frames.find((f) => f.id !== views[0].head.id);
  bench.actions.edit('out', setUsed(out?.id ?? '', false));
  await until(
    bench,
    () => bench.store.getState().merged['set'].key !== key && bench.store.getState().work === undefined,
  );
  expect(pictureOf(views[0].head.id)).not.toBe(first);
  expect(pictureOf(views[1].head.id)).toBe(second);

  bench.actions.edit('apart', setOther('set', { views: 'apart' }));
  await until(bench, () => bench.store.getState().merged['set']?.scene.frames.length === 5);
  expect(panoramaOf(base())?.frames).toHaveLength(5);
  // what is compared with each other is then what was joined: the frames as they are, not the merged views
  const { decoded } = bench.store.getState();
  const turned = setScene(bench.store.getState(), project(), base())?.turned;
  turned?.frames.forEach(({ levels }, i) => {
    const frame = project().frames.find((f) => f.id === panoramaOf(base())?.frames[i]);
    expect(levels).toBe(frame && decoded[frame.hash].levels);
  });
  expect(turned?.frames).toHaveLength(5);
}, 120_000);
