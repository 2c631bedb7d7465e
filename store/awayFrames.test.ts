import { beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { factsOf, shootView } from '@/camera/shootView';
import { writeExif } from '@/camera/writeExif';
import { type SetKind } from '@/core/capture/setKind';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { keptMatch } from '@/core/match/keptMatch';
import { plainMap } from '@/core/match/matchMap';
import { isAway, pictureAtHand, putAway } from '@/core/raster/awayPixels';
import { emptyImage } from '@/core/raster/encodedImage';
import { transform } from '@/core/raster/matrix3';
import { emptyProject } from '@/core/recipe/emptyProject';
import { baseScope } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { nodePlatform } from '@/engine/nodePlatform';
import { inlinePool } from '@/tests/inlinePool';
import { millAtDusk } from '@/tests/knownScene';
import { until } from '@/tests/liveBench';
import { addFiles, type NewFile } from './addFiles';
import { type Bench, type BenchState, type MergedState, type MemoryBudget } from './benchState';
import { openBench } from './bench';
import { type Change, setOf } from './edits/drafts';
import { setReference } from './edits/frames';
import { setHow, setKind } from './edits/sets';
import { memoryOriginals } from './keeping/memoryOriginals';
import { heldFrames, TAB_BUDGET } from './memory';
import { START } from './session';

const [WIDTH, HEIGHT] = [440, 292];
/** holds no frame but those that are looked at, and a part of their rows */
const TINY: MemoryBudget = { beside: 0, held: 0, staying: (WIDTH * HEIGHT) / 4, rows: 250_000 };

let still: NewFile[];
let turned: NewFile[];

beforeAll(async () => {
  const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
  const { encodeJpeg: encode } = nodePlatform();
  const shoot = (name: string, yaw: number, stops: number, seed: number): Promise<NewFile> => {
    const shot = {
      width: WIDTH,
      height: HEIGHT,
      lens: { ...PLAIN_LENS, focalLength: 60 },
      stand: { yaw, pitch: 0.04 * seed, roll: 0.02 * seed },
      seconds: 0.5 * 2 ** stops,
      iso: 100,
      seed,
    };
    const taken = new Date(Date.parse('2026-10-03T18:00:00Z') + 1200 * seed);
    return encodeJpeg(shootView(scene, shot).image, 95, encode).then((jpeg) => {
      const bytes = writeExif(jpeg, factsOf(shot, taken.toISOString().slice(0, 23)));
      return { name, read: () => Promise.resolve(bytes) };
    });
  };
  still = await Promise.all([-2, 0, 2].map((ev, k) => shoot(`still-${k}.jpg`, 0.05 * k, ev, k)));
  turned = await Promise.all([-9, 0, 9].map((yaw, k) => shoot(`turned-${k}.jpg`, yaw, 0, k + 7)));
});

/** What a set becomes. */
interface Made {
  readonly merged: MergedState;
  readonly problems: readonly string[];
}

function benchOf(budget: MemoryBudget): Bench {
  const project = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  return openBench({
    pool: inlinePool(2),
    stored,
    save: () => Promise.resolve(),
    originals: memoryOriginals(),
    isSeen: false,
    budget,
  });
}

/** Frames dropped on a bench with so much memory, merged as a kind. */
async function made(files: readonly NewFile[], budget: MemoryBudget, change: Change): Promise<Made> {
  const bench = benchOf(budget);
  const state = (): BenchState => bench.store.getState();
  await addFiles(bench, files);
  bench.actions.edit('as wished', change);
  const away = (): number => Object.values(state().decoded).filter((f) => isAway(f.levels)).length;
  // all but what is looked at
  const wished = (): number => (budget === TINY ? files.length - heldFrames(state()).size : 0);
  await until(bench, () => {
    const { merged, history } = state();
    const scope = baseScope(history.project);
    return scope !== undefined && merged['set']?.key === setGraph(scope).merge && away() === wished();
  });
  const { merged, problems } = state();
  await bench.actions.close();
  return { merged: merged['set'], problems };
}

const kind =
  (of: SetKind, more: Change = () => undefined): Change =>
  (draft) => {
    setKind('set', of)(draft);
    for (const frame of draft.frames) frame.used = true;
    // frames as small as these have no halving at hand that tells a set from its pixels
    setReference(draft.frames[1].id)(draft);
    more(draft);
  };

describe('more frames than memory holds', () => {
  const cases: readonly (readonly [string, () => NewFile[], Change])[] = [
    ['a bracket', () => still, kind('bracket')],
    [
      'a bracket that is evened out',
      () => still,
      kind('bracket', setHow('set', { prepare: { balance: 'even' } })),
    ],
    ['a radiance map', () => still, kind('bracket', setHow('set', { method: 'radiance' }))],
    ['a stack', () => still, kind('stack')],
    [
      'a focus set',
      () => still,
      kind('focus', (draft) => {
        const set = setOf(draft, 'set');
        if (set) set.other.focus = 'pyramid';
      }),
    ],
    ['moments', () => still, kind('moments')],
    [
      'a panorama of which one frame is made like its neighbours',
      () => turned,
      kind('panorama', (draft) => {
        const map = keptMatch(plainMap(8));
        const lighter = map.curves.map((c, k) => c.map((v) => v + 0.02 * (k + 1)));
        const like = [{ frame: draft.frames[2].id, matrix: map.matrix, curves: lighter }];
        setHow('set', { prepare: { balance: 'shot', like } })(draft);
      }),
    ],
  ];
  test.each(cases)(
    '%s is merged to the same pixels, read again strip by strip',
    async (_, files, change) => {
      const whole = await made(files(), TAB_BUDGET, change);
      const read = await made(files(), TINY, change);
      expect([whole.problems, read.problems]).toEqual([[], []]);
      const pixels = ({ merged }: Made) => Buffer.from(new Uint8Array(merged.scene.levels[0].data.buffer));
      expect(pixels(whole).length).toBeGreaterThan(WIDTH * HEIGHT);
      expect(pixels(read).equals(pixels(whole))).toBe(true);
      // frames as small as these have no halving at hand that is as fine as edges are measured in
      const told = ({ merged }: Made) =>
        merged.findings.filter(({ id }) => id !== 'merge.halo' && id !== 'merge.fringe');
      expect(told(read)).toEqual(told(whole));
    },
    60_000,
  );

  test('the one that is looked at is whole, and goes when another is', async () => {
    const bench = benchOf(TINY);
    const wholeOnes = (): string[] =>
      bench.store
        .getState()
        .history.project.frames.filter((f) => !isAway(bench.store.getState().decoded[f.hash].levels))
        .map((f) => f.file);
    await addFiles(bench, still);
    bench.actions.edit('a stack', kind('stack'));
    const { frames } = bench.store.getState().history.project;
    for (const k of [2, 0]) {
      bench.actions.go({ frame: frames[k].id });
      // the reference stays, too
      await until(
        bench,
        () =>
          wholeOnes().join() ===
          [frames[k], frames[1]]
            .map((f) => f.file)
            .sort()
            .join(),
      );
    }
    await bench.actions.close();
  }, 60_000);

  test('until it is whole it is drawn from its small level, where it lies', () => {
    const levels = [0, 1, 2].map((l) => emptyImage(800 >> l, 600 >> l, 255));
    const { image, map } = pictureAtHand(putAway(levels, 'x', 800 * 150), 0);
    expect(image).toBe(levels[1]);
    // pixel 10 of the whole lies between pixels 4 and 5 of the half
    expect(transform(map, 10, 21)).toEqual([4.75, 10.25]);
  });
});
