import { beforeAll, describe, expect, test } from '@jest/globals';
import { type Dab } from '@/core/cutout/dab';
import { allLayers, type Layer } from '@/core/layers/layer';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type RegionPart } from '@/core/region/region';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, smallProject, type SmallProject } from '@/tests/smallProject';
import { type Bench } from '../benchState';
import { finishedPicture } from '../deliver';
import { setLayer, setPlace } from '../edits/layers';
import { addPart, setPart, type RegionOwner } from '../edits/regions';
import { cutStage } from './cutStage';

const pool = inlinePool(2);
let small: SmallProject;

beforeAll(async () => {
  small = await smallProject(pool);
}, 60_000);

const plateOf = (bench: Bench): Layer => {
  const plate = allLayers(bench.store.getState().history.project.layers).find(
    (l) => l.kind === 'picture' && l.source.kind === 'plate',
  );
  if (!plate) throw new Error('there is no plate');
  return plate;
};

const dab = (is: Dab['is'], x: number, y: number): Dab => ({ is, size: 0.1, points: [[x, y]] });
const thing = (...dabs: Dab[]): RegionPart['part'] => ({ kind: 'thing', settings: { dabs } });

const picture = (bench: Bench): Promise<EncodedImage> => finishedPicture(bench, 65535, 0);

/** A bench with the plate of the project wholly opaque, and what points at a thing in it. */
async function withThing(): Promise<{ bench: Bench; id: string; owner: RegionOwner }> {
  const bench = await reopened(pool, small);
  await settled(bench);
  const { id } = plateOf(bench);
  const owner = { kind: 'layer', layer: id } as const;
  bench.actions.edit('Point', addPart(owner, 'add', thing(dab('this', 0.5, 0.35), dab('not', 0.05, 0.05))));
  return { bench, id, owner };
}

describe('things that are cut out', () => {
  test('a plate shows its thing alone; the cut goes with its place, and a project comes back with the same picture', async () => {
    const { bench, id } = await withThing();
    await settled(bench);
    const { cuts } = bench.store.getState();
    // what nobody waits for has no quick form
    expect(Object.keys(cuts)).toHaveLength(1);
    const [{ alpha }] = Object.values(cuts)[0].levels;
    const covered = alpha?.reduce((sum, a) => sum + a / 255, 0) ?? 0;
    expect(covered / (alpha?.length ?? 1)).toBeGreaterThan(0.02);
    expect(covered / (alpha?.length ?? 1)).toBeLessThan(0.98);
    const shown = await picture(bench);
    const { project } = bench.store.getState().history;
    const again = await reopened(pool, { ...small, project });
    await settled(again);
    expect(await picture(again)).toEqual(shown);
    await again.actions.close();
    bench.actions.edit('Move', setPlace(id, { x: 0.4 }));
    await settled(bench);
    // the same cut: it belongs to the picture, not to where it lies
    expect(bench.store.getState().cuts).toEqual(cuts);
    expect(await picture(bench)).not.toEqual(shown);
    bench.actions.undo();
    await settled(bench);
    expect(await picture(bench)).toEqual(shown);
    bench.actions.edit('Hide', setLayer(id, { shown: false }));
    await settled(bench);
    expect(await picture(bench)).not.toEqual(shown);
    await bench.actions.close();
  }, 60_000);

  test('for those who look a first outline comes before the exact one, and the cut before stands until then', async () => {
    const { bench, id, owner } = await withThing();
    const now = () => bench.store.getState();
    const maskOf = (): string | undefined =>
      bench.shown(now()).built?.compiled.layers.find((l) => l.id === id)?.mask;
    bench.store.setState({ paused: true });
    const step = async (): Promise<string> => {
      const stage = cutStage(now(), now().history.project, true);
      if (!stage) return '';
      const settle = await stage.run(pool, new AbortController().signal, () => undefined);
      bench.store.setState({ ...settle(now()), paused: true });
      return stage.key.split(' ')[0];
    };
    expect(maskOf()).toBeUndefined();
    expect(await step()).toBe('rough');
    const rough = maskOf();
    expect(rough).toBeDefined();
    expect(await step()).toBe('cut');
    const exact = maskOf();
    expect(exact).not.toBe(rough);
    expect(await step()).toBe('');
    const more = thing(dab('this', 0.5, 0.35), dab('not', 0.05, 0.05), dab('not', 0.9, 0.6));
    bench.actions.edit('Point again', setPart(owner, 0, { part: more }));
    bench.store.setState({ paused: true });
    expect(maskOf()).toBe(exact);
    // with no dab on it nothing is meant
    bench.actions.edit('Only not', setPart(owner, 0, { part: thing(dab('not', 0.1, 0.1)) }));
    bench.store.setState({ paused: true });
    expect(maskOf()).toBeUndefined();
    expect(await step()).toBe('');
    await bench.actions.close();
  }, 60_000);
});
