import { type Draft } from 'immer';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { allLayers } from '@/core/layers/layer';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { markCheck, matchMapOf, type PlacedMark } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { keptMatch } from '@/core/match/keptMatch';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { PART_KINDS } from '@/core/region/partKinds';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, smallProject, type SmallProject } from '@/tests/smallProject';
import { type Bench } from './benchState';
import { finishedPicture } from './deliver';
import { addEdit, editsAt, newEdit, setEdit, setKindOfEdit } from './edits/list';
import { codeOfFrame, codeOfPlace, setMarks } from './matchByMarks';
import { groupLayer } from './edits/layers';
import { matchedFrame, matchedTo, matchReferences, memberSides } from './matchSides';
import { matchTo } from './matchTo';
import { stationFindings } from './stationFindings';

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

describe('several at once', () => {
  test('a set is like two frames, each weighed, and like one again', async () => {
    const bench = await opened();
    const whole = { kind: 'whole' } as const;
    const settings = () => findEdit(editsAt(projectOf(bench), whole), 'match')?.settings;
    const [first, second] = matchReferences(projectOf(bench), whole);
    await matchTo(bench, whole, first, 'm');
    const alone = settings()?.curves;
    bench.actions.edit('Half', setKindOfEdit(whole, 'match', { tone: 0.5 }, 'm'));
    await matchTo(bench, whole, [...matchedTo(projectOf(bench), whole), { ...second, weight: 0.5 }], 'm');
    expect(settings()?.weighed).toEqual([
      { to: first.name, weight: 1 },
      { to: second.name, weight: 0.5 },
    ]);
    expect(EDIT_KINDS.match.schema.isValidSync(settings())).toBe(true);
    expect(settings()?.to).toBe(`${first.name}, ${second.name}`);
    // another that comes to it leaves how much is taken
    expect(settings()).toMatchObject({ tone: 0.5, contrast: 1 });
    expect(settings()?.curves).not.toEqual(alone);
    expect(matchedFrame(projectOf(bench), whole)).toBe(
      first.reference.kind === 'frame' ? first.reference.frame : '',
    );
    await matchTo(bench, whole, matchedTo(projectOf(bench), whole).slice(0, 1), 'm');
    expect(settings()?.curves).toEqual(alone);
    expect(settings()?.weighed).toBeUndefined();
    await bench.actions.close();
  }, 60_000);

  test('a layer is taken to a part of the picture that has a name', async () => {
    const bench = await opened();
    const plate = allLayers(projectOf(bench).layers).find(
      (l) => l.kind === 'picture' && l.source.kind === 'plate',
    );
    if (!plate) throw new Error('there is no plate');
    const at = { kind: 'layer', id: plate.id } as const;
    const region: Region = {
      ...EVERYWHERE,
      ...{ id: 'bank', name: 'bank' },
      parts: [
        {
          ...{ how: 'add' as const, on: true, turned: false },
          part: {
            kind: 'ellipse',
            settings: { ...PART_KINDS.ellipse.plain, x: 0.3, y: 0.3, across: 0.3, down: 0.3 },
          },
        },
      ],
    };
    bench.actions.edit('Named', (draft) => void draft.regions.push(region as Draft<Region>));
    bench.actions.edit(
      'Used',
      addEdit({ kind: 'whole' }, { ...newEdit('e', 'exposure', { stops: 0.1 }), where: 'bank' }),
    );
    await settled(bench);
    const offered = matchReferences(projectOf(bench), at).find((r) => r.name === 'bank of this picture');
    if (!offered) throw new Error('it is not offered');
    await matchTo(bench, at, offered, 'm');
    const scores = findEdit(editsAt(projectOf(bench), at), 'match')?.settings.scores;
    expect(scores?.after.deltaE ?? 99).toBeLessThanOrEqual(scores?.before.deltaE ?? 0);
    expect(bench.store.getState().problems).toEqual([]);
    await bench.actions.close();
  }, 60_000);

  test('what lies in a group is taken to the air about it by one change', async () => {
    const bench = await opened();
    const plates = allLayers(projectOf(bench).layers).filter(
      (l) => l.kind === 'picture' && l.source.kind === 'plate',
    );
    bench.actions.edit('Grouped', groupLayer(plates[0].id, 'g', 'Things'));
    const at = { kind: 'layer', id: 'g' } as const;
    bench.actions.edit('Darker', setKindOfEdit(at, 'exposure', { stops: -2 }, 'dark'));
    await settled(bench);
    const [about] = matchReferences(projectOf(bench), at);
    expect(about.reference).toEqual({ kind: 'around' });
    await matchTo(bench, at, about, 'm');
    const scores = findEdit(editsAt(projectOf(bench), at), 'match')?.settings.scores;
    expect(Math.abs(scores?.after.middles ?? 9)).toBeLessThan(0.6 * Math.abs(scores?.before.middles ?? 0));
    // what it leaves of each that lies in it
    const settings = findEdit(editsAt(projectOf(bench), at), 'match')?.settings;
    const members = memberSides(bench, 'g');
    expect(members.map((m) => m.name)).toEqual(plates.slice(0, 1).map((l) => l.name));
    if (!settings) throw new Error('there is no match');
    const left = await bench.pool.run((tasks) =>
      tasks.apartThrough(members[0].own, members[0].about, keptMatch(matchMapOf(settings))),
    );
    expect(left.after).toBeLessThan(0.8 * left.before);
    expect(bench.store.getState().problems).toEqual([]);
    await bench.actions.close();
  }, 60_000);
});

describe('marks of a match', () => {
  const whole = { kind: 'whole' } as const;
  const settingsOf = (bench: Bench) => findEdit(editsAt(projectOf(bench), whole), 'match')?.settings;

  test('alone make a match, are checked against what they ask for, and taking the last away ends it', async () => {
    const bench = await opened();
    const from = await codeOfPlace(bench, whole, 40, 30, 'found');
    if (!from) throw new Error('nothing is there');
    const { length } = bench.store.getState().history.past;
    await setMarks(bench, whole, [{ says: 'grey', x: 40, y: 30, from }], 'm', 'Marked');
    // the mark and what was solved by it are one step
    expect(bench.store.getState().history.past).toHaveLength(length + 1);
    const settings = settingsOf(bench);
    if (!settings) throw new Error('there is no match');
    expect(EDIT_KINDS.match.schema.isValidSync(settings)).toBe(true);
    expect(markCheck({ says: 'grey', from }, settings).off).toBeLessThan(1);
    const found = stationFindings(bench.store.getState(), 'match')?.find((f) => f.id === 'match.mark');
    expect(found?.value).toBeLessThan(1);
    await settled(bench);
    const [r, g, b] = (await codeOfPlace(bench, whole, 40, 30, 'shown')) ?? [0, 1, 0];
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(0.02);
    // what the match finds is still what it found
    expect(await codeOfPlace(bench, whole, 40, 30, 'found')).toEqual(from);
    await setMarks(bench, whole, [], 'm', 'Taken away');
    expect(settingsOf(bench)?.curves).toEqual([]);
    await bench.actions.close();
  }, 60_000);

  test('outrank what it is matched to, stay when that changes, and two at once are both kept', async () => {
    const bench = await opened();
    const [first, second] = matchReferences(projectOf(bench), whole);
    await matchTo(bench, whole, first, 'm');
    const plain = settingsOf(bench);
    const from = (await codeOfPlace(bench, whole, 40, 30, 'found')) ?? [0, 0, 0];
    const held: PlacedMark = { says: 'keep', x: 40, y: 30, from };
    const grey: PlacedMark = { says: 'grey', x: 60, y: 44, from: [0.4, 0.42, 0.44] };
    await Promise.all([
      setMarks(bench, whole, [held], 'm', 'One'),
      setMarks(bench, whole, [held, grey], 'm', 'Two'),
    ]);
    const both = settingsOf(bench);
    if (!plain || !both) throw new Error('there is no match');
    expect(both.marks).toEqual([held, grey]);
    expect(both.to).toBe(first.name);
    expect(both.curves).not.toEqual(plain.curves);
    expect(markCheck(held, both).off).toBeLessThanOrEqual(Math.max(1, markCheck(held, plain).off));
    await matchTo(bench, whole, second, 'm');
    expect(settingsOf(bench)).toMatchObject({ to: second.name, marks: [held, grey] });
    expect(codeOfFrame(bench, projectOf(bench).frames[0].id, 20, 20)).toHaveLength(3);
    expect(codeOfFrame(bench, 'nobody', 20, 20)).toBeUndefined();
    await bench.actions.close();
  }, 60_000);
});
