import { beforeAll, describe, expect, test } from '@jest/globals';
import { type RepairSettings } from '@/core/edits/repair/repairSettings';
import { type Fact } from '@/core/graph/tile';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type FillOffsets } from '@/core/repair/fillOffsets';
import { inlinePool } from '@/tests/inlinePool';
import { largestDifference } from '@/tests/paint';
import { reopened, settled, smallProject, type SmallProject } from '@/tests/smallProject';
import { type Bench } from '../benchState';
import { buildPicture } from '../buildScene';
import { finishedPicture } from '../deliver';
import { addEdit, editsAt, newEdit, setEdit, withSettings } from '../edits/list';
import { addStroke } from '../edits/regions';
import { agreementOf } from './repairStage';

const pool = inlinePool(2);
let small: SmallProject;

beforeAll(async () => {
  small = await smallProject(pool);
}, 60_000);

const WHOLE = { kind: 'whole' } as const;
const OWNER = { kind: 'edit', at: WHOLE, edit: 'r' } as const;

const picture = (bench: Bench): Promise<EncodedImage> => finishedPicture(bench, 65535, 0);

const settingsOf = (bench: Bench): RepairSettings => {
  const edit = editsAt(bench.store.getState().history.project, WHOLE).find((e) => e.id === 'r');
  if (edit?.kind !== 'repair') throw new Error('there is no repair');
  return edit.settings;
};

/** A bench with a repair at the whole, painted over its middle. */
async function painted(): Promise<Bench> {
  const bench = await reopened(pool, small);
  await settled(bench);
  bench.actions.edit('Repair', addEdit(WHOLE, newEdit('r', 'repair')));
  bench.actions.edit(
    'Paint',
    addStroke(OWNER, { action: 'reveal', size: 0.12, softness: 0.3, flow: 1, points: [[0.12, 0.55, 1]] }),
  );
  await settled(bench);
  return bench;
}

describe('repairs', () => {
  test('what all frames show is filled from around it, without a step of its own; the picture comes back with the project', async () => {
    const bench = await painted();
    const state = bench.store.getState();
    expect(settingsOf(bench)).toMatchObject({ from: 'around', chosen: false });
    expect(state.history.past.at(-1)?.label).toBe('Paint');
    const built = buildPicture(state, state.history.project);
    const nodes = built?.compiled.repairs.get('r');
    if (!nodes) throw new Error('it is not there');
    expect(agreementOf(state, nodes)).not.toHaveLength(0);
    const [{ fact }] = built?.compiled.fills ?? [];
    expect(((state.made[fact] as Fact).value as FillOffsets).width).toBeGreaterThan(5);
    const shown = await picture(bench);
    const { project } = state.history;
    const again = await reopened(pool, { ...small, project });
    await settled(again);
    expect(await picture(again)).toEqual(shown);
    await again.actions.close();
    // outside of what was painted nothing is another
    bench.actions.edit('Off', setEdit(WHOLE, 'r', { on: false }));
    await settled(bench);
    const before = await picture(bench);
    const { width } = before;
    // light is brought into codes and back on the way: a step of 65535
    const differs = (i: number): boolean => Math.abs(before.data[i] - shown.data[i]) > 1;
    const far = [...before.data.keys()].filter((i) => {
      const [x, y] = [Math.floor(i / 3) % width, Math.floor(i / 3 / width)];
      return differs(i) && Math.hypot(x - 0.12 * width, y - 0.55 * width) > 0.09 * width;
    });
    expect(far).toHaveLength(0);
    expect(largestDifference(before.data, shown.data)).toBeGreaterThan(1000);
    await bench.actions.close();
  }, 60_000);

  test('a choice by hand stays, however what must go changes; offsets that nothing asks for go', async () => {
    const bench = await painted();
    const [frame] = bench.store.getState().history.project.frames;
    bench.actions.edit(
      'By hand',
      setEdit(WHOLE, 'r', {
        settings: { ...settingsOf(bench), from: 'frame', frame: frame.id, chosen: true },
      }),
    );
    bench.actions.edit(
      'Paint more',
      addStroke(OWNER, { action: 'reveal', size: 0.1, softness: 0.3, flow: 1, points: [[0.1, 0.5, 1]] }),
    );
    await settled(bench);
    expect(settingsOf(bench)).toMatchObject({ from: 'frame', frame: frame.id });
    bench.actions.edit('Marsh', setEdit(WHOLE, 'r', { settings: { ...settingsOf(bench), chosen: false } }));
    await settled(bench);
    expect(settingsOf(bench).from).toBe('around');
    const { made } = bench.store.getState();
    const offsets = Object.values(made).filter(
      (v) => v.is === 'fact' && v.value !== null && typeof v.value === 'object' && 'dx' in v.value,
    );
    expect(offsets).toHaveLength(1);
    // taken back to before the stroke: chosen anew for what is painted then
    bench.actions.undo();
    bench.actions.undo();
    await settled(bench);
    expect(settingsOf(bench)).toMatchObject({ from: 'frame', frame: frame.id, chosen: true });
    await bench.actions.close();
  }, 60_000);

  test('settings change without a step where the edit is, and nowhere else', () => {
    const { project } = small;
    const edit = newEdit('x', 'repair');
    const [layer] = project.layers;
    const with1 = {
      ...project,
      layers: [{ ...layer, edits: [...layer.edits, edit] }, ...project.layers.slice(1)],
    };
    const changed = withSettings(with1, 'x', { seed: 4 });
    expect(changed.layers[0].edits.at(-1)?.settings).toMatchObject({ seed: 4, from: 'smooth' });
    expect(changed.layers.slice(1)).toEqual(with1.layers.slice(1));
    expect(withSettings(with1, 'none', { seed: 4 })).toBe(with1);
  });
});
