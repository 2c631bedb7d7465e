import 'fake-indexeddb/auto';
import { afterEach, describe, expect, test } from '@jest/globals';
import { PNG } from 'pngjs';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { encodePng } from '@/core/codecs/write/encodePng';
import { openProjectFile } from '@/core/codecs/openProjectFile';
import { Problem } from '@/core/proof/problem';
import { encodedGain } from '@/core/raster/encodedGain';
import { emptyProject } from '@/core/recipe/emptyProject';
import { mergedFrames } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { nodePlatform } from '@/engine/nodePlatform';
import { type Tasks } from '@/engine/tasks';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { inlinePool } from '@/tests/inlinePool';
import { exposed, exposureOf } from '@/tests/exposed';
import { paint, waves } from '@/tests/paint';
import { baseOf, sampleProject } from '@/tests/sampleProject';
import { addFiles, restoreFrames } from './addFiles';
import { type Bench } from './benchState';
import { openBench } from './bench';
import {
  deleteProject,
  loadOriginal,
  loadPreview,
  loadProject,
  saveOriginal,
  savePreview,
  saveProject,
  shelfCards,
} from './database';
import { type StoredProject } from './storedProject';
import { deliver, exportProject } from './deliver';
import { fileStem } from './fileStem';
import { addFrameLayer, moveLayer, removeLayer, setLayer } from './edits/layers';
import { addStroke, clearRegion } from './edits/regions';
import { removeFrame, setReference, setUsed } from './edits/frames';
import { rename, setGeometry } from './edits/geometry';
import { amend, record, redo, startHistory, undo } from './history';
import { importProject } from './importProject';
import { START } from './session';
import { stationFindings, worstOf } from './stationFindings';

const { encodeJpeg: encode } = nodePlatform();

/** Bytes as a file that can be read. */
const held = (bytes: Uint8Array) => ({ read: () => Promise.resolve(bytes) });
const [fine, wide] = [waves(61, 40), waves(62, 16)];

/** A real JPEG of a textured scene, shifted by dx and exposed by `stops`. */
async function jpegShot(stops: number, dx = 0, exif = true): Promise<Uint8Array> {
  const brighten = encodedGain(stops);
  const image = paint(420, 280, (x, y) => {
    const v = 0.15 + 0.35 * fine(x + dx, y) + 0.25 * wide(x + dx, y);
    return [brighten(v), brighten(v * 0.95), brighten(v * 0.9)];
  });
  const bytes = await encodeJpeg(image, 95, encode);
  return exif ? writeExif(bytes, { seconds: 2 ** stops / 60, aperture: 8, iso: 100 }) : bytes;
}

const open: Bench[] = [];
function bench(
  change: Partial<StoredProject> = {},
  wrap?: (tasks: Tasks) => Tasks,
  save = async (_: StoredProject) => Promise.resolve(),
  originals = memoryOriginals(),
): Bench {
  const project = change.project ?? emptyProject('p', 'Marsh at dusk', '2026-10-03T12:00:00.000Z');
  const stored: StoredProject = {
    id: project.id,
    changed: project.changed,
    project,
    session: START,
    past: [],
    future: [],
    ...change,
  };
  const made = openBench({ pool: inlinePool(2, wrap), stored, save, originals });
  open.push(made);
  return made;
}
afterEach(async () => {
  for (const b of open.splice(0)) await b.actions.close();
});

async function until(b: Bench, ready: (b: Bench) => boolean, ms = 30_000): Promise<void> {
  const end = Date.now() + ms;
  while (!ready(b)) {
    if (Date.now() > end) throw new Error(`not in time: ${JSON.stringify(b.store.getState().problems)}`);
    await new Promise((r) => setTimeout(r, 10));
  }
}
const project = (b: Bench): Project => b.store.getState().history.project;
/** A bench whose originals can be looked at. */
function keepingBench(kept: Map<string, Uint8Array>, change: Partial<StoredProject> = {}): Bench {
  return bench(change, undefined, undefined, memoryOriginals(kept));
}

describe('history', () => {
  test('every step can be taken back and done again, in order', () => {
    const start = startHistory(sampleProject());
    const one = record(start, 'Named it A', rename('A'));
    const two = record(one, 'Exposure', exposed(1));
    expect(undo(two).project).toEqual(one.project);
    expect(undo(undo(two)).project).toEqual(start.project);
    expect(undo(undo(undo(two))).project).toEqual(start.project);
    expect(redo(redo(undo(undo(two)))).project).toEqual(two.project);
  });

  test('an edit that changes nothing is no step; a new one drops what was taken back', () => {
    const start = startHistory(sampleProject());
    expect(record(start, 'same', rename(start.project.title))).toBe(start);
    const taken = undo(record(start, 'A', rename('A')));
    expect(taken.future).toHaveLength(1);
    expect(record(taken, 'B', rename('B')).future).toHaveLength(0);
  });

  test('one gesture is one step, the next gesture another', () => {
    let history = startHistory(sampleProject());
    for (const stops of [0.1, 0.2, 0.3]) history = record(history, 'Exposure', exposed(stops), 'drag 1');
    history = record(history, 'Exposure', exposed(0.5), 'drag 2');
    expect(history.past).toHaveLength(2);
    expect(exposureOf(undo(history).project)).toBe(0.3);
    expect(exposureOf(undo(undo(history)).project)).toBe(0);
  });

  test('measured facts join the project without a step', () => {
    const start = startHistory(sampleProject());
    const amended = amend(start, (project) => ({ ...project, made: {} }));
    expect(amended.past).toHaveLength(0);
    expect(amended.project.made).toEqual({});
  });
});

describe('edits', () => {
  const after = (...edits: Parameters<typeof record>[2][]): Project =>
    edits.reduce((h, e) => record(h, 'x', e), startHistory(sampleProject())).project;

  test('taking the reference out proposes another; a crop drawn on it goes', () => {
    const result = after(setGeometry({ crop: { x: 0, y: 0, width: 99, height: 99 } }), removeFrame('mid'));
    expect(baseOf(result).set.reference).not.toBe('mid');
    expect(result.geometry.crop).toBeUndefined();
    expect(result.frames).toHaveLength(2);
  });

  test('a reference the user chose stays while it is in use', () => {
    const chosen = after(setReference('light'), setUsed('dark', false));
    expect(baseOf(chosen).set).toMatchObject({
      reference: 'light',
      referenceChosen: true,
      why: 'You chose the reference.',
    });
    expect(baseOf(after(setReference('light'), setUsed('light', false))).set.referenceChosen).toBe(false);
  });

  test('taking the last frame out leaves an empty set', () =>
    expect(baseOf(after(removeFrame('dark'), removeFrame('mid'), removeFrame('light'))).set).toMatchObject({
      reference: '',
      why: '',
    }));

  test('layers are added hidden, moved within bounds, changed, filled and removed', () => {
    const [, , light] = sampleProject().frames;
    const added = addFrameLayer('l1', light);
    const own = { kind: 'layer', layer: 'l1' } as const;
    const stroke = { action: 'reveal', size: 0.1, softness: 1, flow: 1, points: [[0.1, 0.1, 1]] } as const;
    const painted = after(added, addStroke(own, stroke), setLayer('l1', { opacity: 0.5, blend: 'screen' }));
    expect(painted.layers[1]).toMatchObject({
      name: 'light',
      opacity: 0.5,
      blend: 'screen',
      where: { parts: [{ how: 'add', part: { kind: 'strokes', settings: { strokes: [stroke] } } }] },
    });
    expect(after(added, moveLayer('l1', 1)).layers.map((l) => l.id)).toEqual(['merge', 'l1']);
    expect(after(added, moveLayer('l1', -1)).layers.map((l) => l.id)).toEqual(['l1', 'merge']);
    expect(
      after(added, addStroke(own, stroke), clearRegion(own, 'everywhere')).layers[1].where,
    ).toBeUndefined();
    expect(after(added, removeLayer('l1')).layers).toHaveLength(1);
    // a frame takes its layers with it
    expect(after(added, removeFrame('light')).layers).toHaveLength(1);
  });
});

describe('the bench', () => {
  test('files become a fitted, merged and finished bracket by themselves; a bad one leaves a sentence', async () => {
    const originals = new Map<string, Uint8Array>();
    const b = keepingBench(originals);
    await addFiles(b, [
      { name: 'one.jpg', ...held(await jpegShot(0)) },
      { name: 'broken.jpg', ...held(Uint8Array.of(1, 2, 3)) },
      { name: 'two.jpg', ...held(await jpegShot(1.5, 5)) },
    ]);
    expect(b.store.getState().problems[0]).toContain('“broken.jpg”');
    expect(originals.size).toBe(2);
    await until(b, (x) => x.store.getState().finished !== undefined);
    const { merged, work, unreadable } = b.store.getState();
    expect([unreadable, work]).toEqual([1, undefined]);
    expect(merged['set'].scene.frames).toHaveLength(2);
    const [, light] = mergedFrames(baseOf(project(b)));
    expect(Math.abs(light.registration.matrix[2])).toBeCloseTo(5, 0);
    expect(project(b).log.map((l) => l.text)).toEqual(['Added 2 frames', 'Fitted 2 frames', 'Merged']);
    expect(project(b).log[2].seconds).toBeGreaterThan(0);
    expect(project(b).log[2].findings?.length).toBeGreaterThan(4);
    // findings of every station are there
    const state = b.store.getState();
    for (const station of ['frames', 'fit', 'merge', 'finish'] as const)
      expect(stationFindings(state, station)?.length).toBeGreaterThan(1);
    expect(stationFindings(state, 'layers')).toBeUndefined();
    expect(stationFindings(state, 'frames')?.find((f) => f.id === 'frames.unreadable')?.value).toBe(1);
    expect(worstOf(state, 'frames')?.verdict).toBe('watch');

    // the delivered picture is what an independent reader (pngjs) finds in the file
    const out = await deliver(b, { kind: 'png', quality: 90, disclosed: false });
    if (!out) throw new Error('nothing delivered');
    const png = PNG.sync.read(Buffer.from(out.bytes), { skipRescale: true });
    expect([png.depth, out.name]).toEqual([16, 'marsh-at-dusk.png']);
    expect(png.width).toBeLessThan(420);
    expect(png.width).toBeGreaterThan(400);
    const jpegOut = await deliver(b, { kind: 'jpeg', quality: 90, disclosed: true });
    expect([...(jpegOut?.bytes.subarray(0, 3) ?? [])]).toEqual([0xff, 0xd8, 0xff]);

    // and the project file opens elsewhere with the same recipe: that of the moment when it was asked for, facts may come in while it is packed
    const { frames, made } = project(b);
    const packed = await exportProject(b);
    if (!packed) throw new Error('nothing packed');
    const parts = await (await openProjectFile(packed.name, new Blob([packed.bytes.slice()]))).read();
    expect(parts.project.frames).toEqual(frames);
    expect(parts.project.made).toEqual(made);
    expect(parts.preview?.length).toBeGreaterThan(500);
  }, 60_000);

  test('the same file is not added twice', async () => {
    const b = bench();
    const file = { name: 'a.jpg', ...held(await jpegShot(0)) };
    await addFiles(b, [file]);
    await addFiles(b, [{ ...file, name: 'copy.jpg' }]);
    expect(project(b).frames).toHaveLength(1);
    expect(b.store.getState().problems[0]).toContain('“copy.jpg” is already here');
  });

  test('every edit is written, the last state last, one write at a time', async () => {
    const written: string[] = [];
    let writing = 0;
    const b = bench({}, undefined, async (stored) => {
      expect(++writing).toBe(1);
      await new Promise((r) => setTimeout(r, 5));
      writing--;
      written.push(stored.project.title);
    });
    for (const title of ['A', 'B', 'C', 'D']) b.actions.edit(`Named it ${title}`, rename(title));
    await until(b, (x) => x.store.getState().saving === 'saved');
    expect(written[written.length - 1]).toBe('D');
    expect(written.length).toBeLessThan(4);
  });

  test('no room to save is said, and work goes on', async () => {
    const b = bench({}, undefined, () => Promise.reject(new DOMException('full', 'QuotaExceededError')));
    b.actions.edit('Named it A', rename('A'));
    await until(b, (x) => x.store.getState().saving === 'failed');
    expect(b.store.getState().problems[0]).toContain('no room left');
    b.actions.edit('Named it B', rename('B'));
    expect(project(b).title).toBe('B');
  });

  test('undo and redo reach over everything and are in the log', () => {
    const b = bench();
    b.actions.edit('Named it A', rename('A'));
    b.actions.edit('Exposure', exposed(1), 'exposure');
    b.actions.edit('Exposure', exposed(1.2), 'exposure');
    b.actions.undo();
    expect(exposureOf(project(b))).toBe(0);
    b.actions.undo();
    expect(project(b).title).toBe('Marsh at dusk');
    b.actions.redo();
    expect(project(b).title).toBe('A');
    expect(project(b).log.map((l) => l.text)).toEqual([
      'Named it A',
      'Exposure',
      'Took back: Exposure',
      'Took back: Named it A',
      'Did again: Named it A',
    ]);
  });

  test('a merge that is cancelled waits until it is asked for again', async () => {
    let slow = true;
    const b = bench({}, (tasks) => {
      const held: unknown = async (...args: Parameters<Tasks['fuseBand']>) => {
        while (slow) await new Promise((r) => setTimeout(r, 5));
        tasks.fuseBand(...args);
      };
      return { ...tasks, fuseBand: held as Tasks['fuseBand'] };
    });
    await addFiles(b, [
      { name: 'a.jpg', ...held(await jpegShot(0)) },
      { name: 'b.jpg', ...held(await jpegShot(1)) },
    ]);
    await until(b, (x) => x.store.getState().work?.text.startsWith('Merging') === true);
    b.store.getState().work?.cancel();
    expect(b.store.getState()).toMatchObject({ paused: true, work: undefined });
    slow = false;
    await new Promise((r) => setTimeout(r, 60));
    expect(b.store.getState().merged['set']).toBeUndefined();
    b.actions.resume();
    await until(b, (x) => x.store.getState().merged['set'] !== undefined);
  }, 60_000);

  test('a step that fails is told by a sentence and can be tried again', async () => {
    let broken = true;
    const b = bench({}, (tasks) => ({
      ...tasks,
      fuseCoarse: (...args: Parameters<Tasks['fuseCoarse']>) => {
        if (broken) throw new Error('disk on fire');
        tasks.fuseCoarse(...args);
      },
    }));
    await addFiles(b, [
      { name: 'a.jpg', ...held(await jpegShot(0)) },
      { name: 'b.jpg', ...held(await jpegShot(1)) },
    ]);
    await until(b, (x) => x.store.getState().problems.length > 0);
    expect(b.store.getState().problems[0]).toMatch(
      /failed unexpectedly \(disk on fire\)\. Nothing that was made is lost/,
    );
    broken = false;
    b.actions.resume();
    await until(b, (x) => x.store.getState().merged['set'] !== undefined);
  }, 60_000);

  test('frames without settings are measured, and a reopened project decodes its originals again', async () => {
    const originals = new Map<string, Uint8Array>();
    const b = keepingBench(originals);
    const files = [
      { name: 'a.jpg', ...held(await jpegShot(0, 0, false)) },
      { name: 'b.jpg', ...held(await jpegShot(1, 0, false)) },
    ];
    await addFiles(b, files);
    expect(project(b).frames.map((f) => f.stopsSource)).toEqual(['measured', 'measured']);
    expect(project(b).frames[1].stops).toBeCloseTo(1, 1);
    const again = keepingBench(originals, { project: project(b) });
    await restoreFrames(again);
    expect(Object.keys(again.store.getState().decoded)).toHaveLength(2);
    // a store that does not answer has not lost anything: it is asked again
    const late = keepingBench(originals, { project: project(b) });
    const { load } = late.originals;
    let answers = false;
    Object.assign(late.originals, {
      load: (hash: string) =>
        answers ? load(hash) : Promise.reject(new DOMException('full', 'UnknownError')),
    });
    await restoreFrames(late);
    expect(late.store.getState().problems).toHaveLength(2);
    expect(late.store.getState().problems[0]).toMatch(/“a\.jpg” could not be read.* tried again by itself/);
    answers = true;
    await until(late, (x) => Object.keys(x.store.getState().decoded).length === 2);
    expect(late.store.getState().problems).toEqual([]);
    // what says itself that it is not as it was is not asked for again
    const changed = keepingBench(originals, { project: project(b) });
    Object.assign(changed.originals, {
      load: () => Promise.reject(new Problem('The original has changed.')),
    });
    await restoreFrames(changed);
    expect(changed.store.getState().problems).toEqual(['The original has changed.']);
    const lost = bench({ project: project(b) });
    await restoreFrames(lost);
    expect(lost.store.getState().problems[0]).toContain('“a.jpg” is gone from this browser');
    // dropped again, the frame is back where it was, and not a second time
    await addFiles(lost, files);
    expect(Object.keys(lost.store.getState().decoded)).toHaveLength(2);
    expect(project(lost).frames).toEqual(project(b).frames);
    // another picture in the place of an original is not taken for it
    const [first, second] = project(b).frames;
    const swapped = new Map([[first.hash, originals.get(second.hash) ?? new Uint8Array()]]);
    const other = keepingBench(swapped, { project: project(b) });
    await restoreFrames(other);
    expect(other.store.getState().problems.join()).toContain('“a.jpg” is another picture');
  }, 60_000);
});

describe('the shelf (IndexedDB)', () => {
  const stored = (id: string, changed: string, change: Partial<StoredProject> = {}): StoredProject => {
    const made = { ...sampleProject(), id, changed };
    return { id, changed, project: made, session: START, past: [], future: [], ...change };
  };

  test('lists what was changed last first, and keeps a preview that a later save does not bring', async () => {
    for (const { id } of await shelfCards()) await deleteProject(id);
    await saveProject(stored('old', '2026-01-01'));
    await saveProject(stored('new', '2026-02-01', { preview: Uint8Array.of(7) }));
    await saveProject(stored('new', '2026-03-01'));
    expect((await shelfCards()).map((p) => p.id)).toEqual(['new', 'old']);
    expect([...((await loadPreview('new')) ?? [])]).toEqual([7]);
    await savePreview('new', Uint8Array.of(8));
    expect([...((await loadPreview('new')) ?? [])]).toEqual([8]);
  });

  test('taking a project off drops the originals that no other project uses', async () => {
    const [dark, mid] = sampleProject().frames;
    const one = sampleProject();
    await saveProject(stored('a', '2026-01-01', { project: { ...one, id: 'a', frames: [dark, mid] } }));
    await saveProject(stored('b', '2026-01-02', { project: { ...one, id: 'b', frames: [mid] } }));
    for (const p of await shelfCards()) if (!['a', 'b'].includes(p.id)) await deleteProject(p.id);
    await saveOriginal(dark.hash, Uint8Array.of(1));
    await saveOriginal(mid.hash, Uint8Array.of(2));
    await deleteProject('a');
    expect(await loadOriginal(dark.hash)).toBeUndefined();
    expect([...((await loadOriginal(mid.hash)) ?? [])]).toEqual([2]);
    expect(await loadProject('a')).toBeUndefined();
  });

  const shelf = (saved: StoredProject[], known = false, kept = new Set<string>()) => ({
    has: async () => Promise.resolve(known),
    keep: async (hash: string) => Promise.resolve(void kept.add(hash)),
    drop: async (hashes: readonly string[]) => Promise.resolve(hashes.forEach((h) => kept.delete(h))),
    save: async (s: StoredProject) => Promise.resolve(void saved.push(s)),
    savePreview: async () => Promise.resolve(),
    newId: () => 'fresh',
  });
  const file = (bytes?: Uint8Array): Blob => new Blob([(bytes ?? new Uint8Array()).slice()]);

  test('a project file of a known project becomes a copy; a changed original is refused and leaves nothing behind', async () => {
    const originals = new Map<string, Uint8Array>();
    const b = keepingBench(originals);
    const picture = (blue: number) => encodePng(paint(64, 48, (x) => [x / 64, 0.5, blue]));
    await addFiles(b, [
      { name: 'a.png', ...held(await picture(0.5)) },
      { name: 'b.png', ...held(await picture(0.6)) },
    ]);
    const packed = await exportProject(b);
    const saved: StoredProject[] = [];
    await importProject(b.pool, 'a.zip', file(packed?.bytes), shelf(saved));
    await importProject(b.pool, 'a.zip', file(packed?.bytes), shelf(saved, true));
    expect(saved.map((s) => [s.id, s.project.title])).toEqual([
      ['p', 'Marsh at dusk'],
      ['fresh', 'Marsh at dusk (copy)'],
    ]);
    const second = project(b).frames[1];
    originals.set(second.hash, new Uint8Array(second.bytes).fill(9));
    const spoiled = await exportProject(b);
    const kept = new Set<string>();
    await expect(
      importProject(b.pool, 'bad.zip', file(spoiled?.bytes), shelf(saved, false, kept)),
    ).rejects.toThrow('the original of “b.png” has changed');
    expect(kept.size).toBe(0);
    expect(saved).toHaveLength(2);
  });

  test('file names come from titles', () =>
    expect(['Ferrow tide mill, dusk', '../../etc', '   ', 'Moulin à marée'].map(fileStem)).toEqual([
      'ferrow-tide-mill-dusk',
      'etc',
      'picture',
      'moulin-a-maree',
    ]));
});
