import { describe, expect, test } from '@jest/globals';
import { sampleProjects } from '@/gauntlet/sampleProjects';
import { baseOf, sampleFit, sampleFrame, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { SET_KINDS } from '../capture/setKind';
import { missing } from '../graph/missing';
import { IDENTITY } from '../raster/matrix3';
import { cropOf, proposedCrop } from './cropOf';
import { parseProject } from './parseProject';
import { emptyProject, PROJECT_VERSION } from './emptyProject';
import { byExposure, fitOf, joinedFrames, mergedFrames, panoramaOf } from './setFrames';
import { type Project } from './project';
import { setGraph } from './setGraph';
import { viewsOf } from './views';

const plain = (project: Project): Record<string, unknown> =>
  JSON.parse(JSON.stringify(project)) as Record<string, unknown>;

/** The first registration that a project as JSON holds. */
function firstFit(project: Record<string, unknown>): Record<string, unknown> {
  const [{ fits }] = Object.values(project.made as Record<string, { fits: Record<string, object> }>);
  return Object.values(fits)[0] as Record<string, unknown>;
}

describe('the recipe as JSON', () => {
  test('comes back as it was, empty or full', () => {
    const [project] = sampleProjects();
    expect(parseProject(plain(project), 'a.zip')).toEqual(project);
    const empty = emptyProject('x', 'Untitled', '2026-01-01T00:00:00.000Z');
    expect(parseProject(plain(empty), 'b.zip')).toEqual(empty);
  });

  const broken: [string, (p: Record<string, unknown>) => void][] = [
    ['a field too many', (p) => (p.script = '<img>')],
    ['a field of a frame too many', (p) => ((p.frames as Record<string, unknown>[])[0].extra = 1)],
    ['no title', (p) => delete p.title],
    ['a number as text', (p) => ((p.frames as Record<string, unknown>[])[0].stops = '2')],
    ['a matrix that is not finite', (p) => (firstFit(p).matrix = [1, 0, null, 0, 1, 0, 0, 0, 1])],
    ['a hash that is none', (p) => ((p.frames as Record<string, unknown>[])[0].hash = '../../x')],
    ['an opacity of 300 %', (p) => ((p.layers as Record<string, unknown>[])[0].opacity = 3)],
    ['a blend mode of its own', (p) => ((p.layers as Record<string, unknown>[])[0].blend = 'toString')],
    ['a reference that is not there', (p) => ((p.sets as Record<string, unknown>[])[0].reference = 'gone')],
    ['two frames of one identity', (p) => ((p.frames as Record<string, unknown>[])[1].id = 'dark')],
    ['a frame without facts', (p) => delete (p.frames as Record<string, unknown>[])[0].facts],
    ['a day that there is not', (p) => (p.changed = 'not a date')],
    ['a line of the record without a time', (p) => (p.log = [{ time: 'never', text: 'Merged' }])],
    ['a thirteenth month', (p) => (p.created = '2026-13-01T00:00:00.000Z')],
    ['a map that shows nothing', (p) => (firstFit(p).matrix = Array<number>(9).fill(0))],
    [
      'a crop of a million',
      (p) => ((p.geometry as Record<string, unknown>).crop = { x: 0, y: 0, width: 1e6, height: 1e6 }),
    ],
    ['two layers of one identity', (p) => (p.layers as unknown[]).push((p.layers as unknown[])[0])],
    ['half a character', (p) => (p.title = 'mill \ud83c')],
    [
      'a layer whose frame is missing',
      (p) => ((p.layers as Record<string, unknown>[])[0].source = { kind: 'frame', frame: 'gone' }),
    ],
    ['a base that is no set', (p) => (p.base = 'gone')],
    ['a frame in two sets', (p) => (p.sets as object[]).push({ ...(p.sets as object[])[0], id: 'other' })],
    [
      'an edit of no known kind',
      (p) => (p.edits as unknown[]).push({ id: 'e', kind: 'toString', settings: {}, amount: 1, on: true }),
    ],
    [
      'an edit with another kind’s settings',
      (p) =>
        (p.edits as unknown[]).push({ id: 'e', kind: 'noise', settings: { stops: 1 }, amount: 1, on: true }),
    ],
    [
      'groups within groups without end',
      (p) => {
        let layer = (p.layers as Record<string, unknown>[])[0];
        for (let k = 0; k < 12; k++)
          layer = { ...layer, id: `g${k}`, kind: 'group', source: undefined, layers: [layer] };
        p.layers = [layer];
      },
    ],
  ];
  test.each(broken)('%s is refused with the name of the file', (_, spoil) => {
    const json = plain(sampleProject());
    spoil(json);
    expect(() => parseProject(json, 'mine.zip')).toThrow(/“mine\.zip” is not a whole Marsh project/);
  });

  test.each([undefined, null, 3, 'text', []])('%j is no project', (value) =>
    expect(() => parseProject(value, 'x')).toThrow('not a whole Marsh project'),
  );

  test('the views of a bracketed panorama: merged first, under one head each, or apart', () => {
    const project = sampleProject({ kind: 'panorama' });
    const ids = project.frames.map((f) => f.id);
    const views = [{ head: ids[1], frames: ids }];
    const bracketed = withSet({ ...project, made: {} }, { views, reference: ids[0] });
    expect(parseProject(plain(bracketed), 'wide.zip')).toEqual(bracketed);
    // the reference of the set stands for its own view, and what is not in use is not of it
    expect(viewsOf(baseOf(bracketed))).toEqual([{ head: project.frames[0], frames: project.frames }]);
    expect(joinedFrames(baseOf(bracketed))).toEqual([project.frames[0]]);
    const using = (used: (i: number) => boolean): Project => ({
      ...bracketed,
      frames: project.frames.map((f, i) => ({ ...f, used: used(i) })),
    });
    expect(viewsOf(baseOf(using((i) => i !== 2)))[0].frames.map((f) => f.id)).toEqual(ids.slice(0, 2));
    expect(viewsOf(baseOf(using((i) => i === 0)))).toEqual([]);
    const { other } = baseOf(bracketed).set;
    const apart = withSet(bracketed, { other: { ...other, views: 'apart' } });
    expect(viewsOf(baseOf(apart))).toEqual([]);
    expect(joinedFrames(baseOf(apart))).toHaveLength(3);
    expect(viewsOf(baseOf(withSet(bracketed, { kind: 'focus' })))).toEqual([]);
  });

  test('a panorama is kept whole, strays included, and every kind has a merge of its own', () => {
    const project = withSet(sampleProject(), { kind: 'panorama', kindChosen: true });
    const panorama = {
      frames: project.frames.map((f) => f.id),
      fit: {
        lens: { focalPx: 900, k1: 0, width: 600, height: 400 },
        rotations: project.frames.map((_, i) => (i === 0 ? null : IDENTITY)),
        pairs: [{ a: 0, b: 1, overlap: 0.4, matches: 80, agreeing: 60, residual: 0.2, parallax: 0.5 }],
      },
    };
    const fits = Object.fromEntries(project.frames.map((f) => [f.id, sampleFit(0, 0)]));
    const turned = withFits({ ...project, task: 'Make one wide picture.' }, fits, panorama);
    expect(parseProject(plain(turned), 'wide.zip')).toEqual(turned);
    expect(panoramaOf(baseOf(turned))).toEqual(panorama);
    // bent to a rectangle: a lattice has a place for each of its vertices
    const mesh = {
      ...{ projection: 'panini' as const, left: -1, top: -0.5, across: 2, down: 1, columns: 2, rows: 2 },
      ...{ places: [-1, -0.4, 1, -0.5, -1, 0.5, 1, 0.4], stretch: 12, bow: 0.0002 },
    };
    const bent: Project = { ...turned, made: { ...turned.made, border: { of: 'mesh', mesh } } };
    expect(parseProject(plain(bent), 'bent.zip')).toEqual(bent);
    const torn = { ...bent, made: { border: { of: 'mesh', mesh: { ...mesh, columns: 3 } } } };
    expect(() => parseProject(plain(torn as Project), 'torn.zip')).toThrow('not a whole Marsh project');
    const broken = plain(withSet(turned, { kind: 'collage' as 'panorama' }));
    expect(() => parseProject(broken, 'x.zip')).toThrow('not a whole Marsh project');
    const merges = SET_KINDS.map((kind) => setGraph(baseOf(sampleProject({ kind }))).merge);
    expect(new Set(merges).size).toBe(SET_KINDS.length);
  });
  test('a file of a later version says so', () =>
    expect(() =>
      parseProject({ ...plain(sampleProject()), version: PROJECT_VERSION + 1 }, 'new.zip'),
    ).toThrow(`newer Marsh (version ${PROJECT_VERSION + 1})`));
});

describe('what the recipe asks for', () => {
  test('frames are merged darkest first, those left out are not', () => {
    const project = sampleProject();
    expect(mergedFrames(baseOf(project)).map((m) => m.frame.id)).toEqual(['dark', 'mid', 'light']);
    const blurred = withFits(project, {
      dark: sampleFit(0, 0, { fitted: false, why: 'blurred' }),
      mid: sampleFit(0, 0),
      light: sampleFit(0, 0),
    });
    expect(mergedFrames(baseOf(blurred)).map((m) => m.frame.id)).toEqual(['mid', 'light']);
    expect(byExposure([sampleFrame('b', 1), sampleFrame('a', -1)]).map((f) => f.id)).toEqual(['a', 'b']);
  });

  test('the node of the merge is another one with whatever the merge depends on, and with nothing else', () => {
    const project = sampleProject();
    const merge = (of: Project): string => setGraph(baseOf(of)).merge;
    const same = merge(project);
    expect(merge({ ...project, title: 'Other', edits: [] })).toBe(same);
    // what changes the picture afterwards is not of the merge, its tone map among it
    const toned = [{ id: 't', kind: 'toneMap', settings: { strength: 0.2, detail: 1 }, amount: 1, on: true }];
    expect(merge(withSet(project, { edits: toned as Project['edits'] }))).toBe(same);
    const { set } = baseOf(project);
    expect(merge(withSet(project, { merge: { ...set.merge, contrast: 0.5 } }))).not.toBe(same);
    expect(merge(withSet(project, { prepare: { balance: 'even' } }))).not.toBe(same);
    expect(merge(withSet(project, { prepare: { balance: 'shot', dust: true } }))).not.toBe(same);
    expect(merge(withSet(project, { prepare: { balance: 'shot', dust: false } }))).toBe(same);
    const darker = project.frames.map((f) => (f.id === 'light' ? { ...f, stops: 1 } : f));
    expect(merge({ ...project, frames: darker })).not.toBe(same);
    const unused = project.frames.map((f) => (f.id === 'light' ? { ...f, used: false } : f));
    expect(merge({ ...project, frames: unused })).not.toBe(same);
  });

  test('a panorama’s fit follows from its settings alone, and another lens or bend is another fit', () => {
    const project = sampleProject({ kind: 'panorama' });
    const fit = (of: Project): string => setGraph(baseOf(of)).fits.hash;
    const { other } = baseOf(project).set;
    const first = fit(project);
    const bent = withSet(project, { other: { ...other, bend: true } });
    expect(fit(bent)).not.toBe(first);
    const lens = { distortion: 0.02, vignette: 0, red: 0, blue: 0 };
    const corrected = withSet(project, { prepare: { balance: 'shot', lens } });
    expect(fit(corrected)).not.toBe(first);
    // there and back: the first fit again, whatever came between
    expect(fit(withSet(bent, { other: { ...other, bend: false } }))).toBe(first);
    expect(fit(withSet(corrected, { prepare: { balance: 'shot' } }))).toBe(first);
    const moved = withSet(project, { reference: 'light' });
    expect(fit(moved)).not.toBe(first);
    expect(fit(withSet(moved, { reference: 'mid' }))).toBe(first);
  });

  test('another way to move asks for new fits', () => {
    const project = sampleProject();
    const freed = baseOf(withSet(project, { motion: 'perspective' }));
    expect(fitOf(freed, project.frames[0])).toBeUndefined();
    const { graph, merge } = setGraph(freed);
    const lacking = missing(
      graph,
      [merge],
      (hash) => graph.get(hash)?.kind === 'frame' || hash in freed.made,
    );
    expect(lacking.map((n) => n.kind)).toEqual(['fitFrame', 'fitFrame', 'fitFrame', 'joinFits', 'mergeSet']);
  });

  test('the proposed crop is what all frames cover; the user’s own goes before it', () => {
    const project = sampleProject();
    // frame ‘dark’ covers x ≥ 4 and y ≤ 396, ‘light’ x ≤ 589 and y ≥ 6
    expect(proposedCrop(project)).toEqual({ x: 4, y: 6, width: 586, height: 391 });
    const own = { x: 1, y: 2, width: 30, height: 40 };
    expect(cropOf({ ...project, geometry: { ...project.geometry, crop: own } })).toEqual(own);
  });
});
