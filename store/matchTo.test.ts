import { beforeAll, describe, expect, test } from '@jest/globals';
import { allLayers } from '@/core/layers/layer';
import { findEdit } from '@/core/edits/ranked';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, smallProject, type SmallProject } from '@/tests/smallProject';
import { type Bench } from './benchState';
import { finishedPicture } from './deliver';
import { editsAt, setEdit, setKindOfEdit } from './edits/list';
import { matchReferences, matchTo } from './matchTo';

const pool = inlinePool(2);
let small: SmallProject;

beforeAll(async () => {
  small = await smallProject(pool);
}, 60_000);

const projectOf = (bench: Bench) => bench.store.getState().history.project;
const picture = (bench: Bench): Promise<EncodedImage> => finishedPicture(bench, 65535, 0);

function meanDifference(a: EncodedImage, b: EncodedImage): number {
  let sum = 0;
  for (let i = 0; i < a.data.length; i++) sum += Math.abs(a.data[i] - b.data[i]) / 65535;
  return sum / a.data.length;
}

async function opened(): Promise<Bench> {
  const bench = await reopened(pool, small);
  await settled(bench);
  return bench;
}

describe('a match', () => {
  test('undoes a change of the whole by the frame that it was made from: pixel on pixel, measured, and half of it half way', async () => {
    const bench = await opened();
    const whole = { kind: 'whole' } as const;
    bench.actions.edit('Only the set', (draft) => void draft.layers.splice(1));
    await settled(bench);
    const plain = await picture(bench);
    bench.actions.edit('Darker', setKindOfEdit(whole, 'exposure', { stops: -1 }, 'dark'));
    bench.actions.edit(
      'Redder',
      setKindOfEdit(whole, 'neutral', { gains: [1.3, 1, 0.8], before: [128, 128, 128], x: 0, y: 0 }, 'red'),
    );
    await settled(bench);
    const graded = await picture(bench);
    const { frames, sets } = projectOf(bench);
    const own = frames.find((f) => f.id === sets[0].reference);
    const reference = matchReferences(projectOf(bench), whole).find((r) => r.name === own?.file);
    if (!reference) throw new Error('the reference is not offered');
    await matchTo(bench, whole, reference, 'm');
    await settled(bench);
    const edit = findEdit(editsAt(projectOf(bench), whole), 'match');
    expect(edit?.settings.to).toBe(own?.file);
    expect(edit?.settings.scores?.why).toContain('pixel on pixel');
    expect(edit?.settings.scores?.after.deltaE ?? 99).toBeLessThan(
      0.5 * (edit?.settings.scores?.before.deltaE ?? 0),
    );
    const matched = await picture(bench);
    // fusion is no single frame: it comes nearer to the plain picture, not to the bit
    expect(meanDifference(matched, graded)).toBeGreaterThan(0.02);
    expect(meanDifference(matched, plain)).toBeLessThan(0.6 * meanDifference(graded, plain));
    if (!edit) return;
    bench.actions.edit(
      'Nothing of it',
      setEdit(whole, edit.id, { settings: { ...edit.settings, tone: 0, contrast: 0, colour: 0 } }),
    );
    await settled(bench);
    expect(meanDifference(await picture(bench), graded)).toBeLessThan(1e-6);
    bench.actions.edit(
      'Half',
      setEdit(whole, edit.id, { settings: { ...edit.settings, tone: 0.5, contrast: 0.5, colour: 0.5 } }),
    );
    await settled(bench);
    const half = await picture(bench);
    const way = meanDifference(half, graded) / meanDifference(matched, graded);
    expect(way).toBeGreaterThan(0.4);
    expect(way).toBeLessThan(0.6);
    await bench.actions.close();
  }, 60_000);

  test('takes a layer to what lies about it, and offers neither its own picture nor itself', async () => {
    const bench = await opened();
    const plate = allLayers(projectOf(bench).layers).find(
      (l) => l.kind === 'picture' && l.source.kind === 'plate',
    );
    if (plate?.kind !== 'picture' || plate.source.kind !== 'plate') throw new Error('there is no plate');
    const { frame } = plate.source;
    const at = { kind: 'layer', id: plate.id } as const;
    const file = projectOf(bench).frames.find((f) => f.id === frame)?.file;
    const offered = matchReferences(projectOf(bench), at);
    expect(offered.map((r) => r.name)).not.toContain(file);
    expect(offered[0].reference).toEqual({ kind: 'around' });
    // and the whole has nothing about it
    expect(matchReferences(projectOf(bench), { kind: 'whole' })[0].reference.kind).toBe('frame');
    bench.actions.edit('Darker', setKindOfEdit(at, 'exposure', { stops: -2 }, 'dark'));
    await settled(bench);
    await matchTo(bench, at, offered[0], 'm');
    const scores = findEdit(editsAt(projectOf(bench), at), 'match')?.settings.scores;
    // two stops too dark when it was solved: the exposure comes before
    expect(scores?.before.middles ?? 0).toBeLessThan(-1);
    expect(Math.abs(scores?.after.middles ?? 9)).toBeLessThan(0.6 * Math.abs(scores?.before.middles ?? 0));
    await settled(bench);
    expect(bench.store.getState().problems).toEqual([]);
    await bench.actions.close();
  }, 60_000);
});
