import { describe, expect, test } from '@jest/globals';
import { sampleFit, sampleFrame, sampleProject } from '@/tests/sampleProject';
import { SET_KINDS } from '../capture/setKind';
import { IDENTITY } from '../raster/matrix3';
import { PLAIN_MASK } from '@/core/mask/mask';
import { cropOf, proposedCrop } from './cropOf';
import { parseProject } from './parseProject';
import {
  byExposure,
  emptyProject,
  fitKey,
  fitOf,
  joinedFrames,
  mergedFrames,
  mergeKey,
  type Project,
  PROJECT_VERSION,
} from './project';
import { viewsOf } from './views';
import { settingsOf } from './settings';

const plain = (project: Project): Record<string, unknown> =>
  JSON.parse(JSON.stringify(project)) as Record<string, unknown>;

describe('the recipe as JSON', () => {
  test('comes back as it was, empty or full', () => {
    const project: Project = {
      ...sampleProject(),
      layers: [
        ...sampleProject().layers,
        {
          id: 'l1',
          name: 'mill-04',
          source: { kind: 'frame', frame: 'light' },
          visible: true,
          opacity: 0.4,
          blend: 'screen',
          stops: -1.5,
          adjust: {
            neutral: { x: 3, y: 4, before: [90, 100, 110], gains: [1.1, 1, 0.9] },
            zones: [{ at: -3, by: 0.5 }],
            saturation: 0.8,
          },
          mask: {
            ...PLAIN_MASK,
            range: { from: -3, to: 1, soft: 0.5 },
            base: 'hidden',
            strokes: [
              {
                action: 'reveal',
                size: 0.1,
                softness: 1,
                flow: 0.3,
                points: [
                  [0.1, 0.2, 1],
                  [0.3, 0.2, 0.5],
                ],
              },
            ],
          },
        },
      ],
      finish: {
        ratio: '2:3',
        upright: true,
        crop: { x: 3, y: 4, width: 200, height: 300 },
        exposure: 0.35,
        straighten: { level: [1, 2, 30, 4] },
        noise: 0.3,
        sharpen: { radius: 2, amount: 0.5, edge: 0.2 },
      },
      watchPoints: [{ id: 'w', x: 10, y: 20 }],
      printRegion: { x: 1, y: 2, width: 30, height: 40 },
      log: [
        { time: '2026-10-03T12:00:00.000Z', text: 'Added 3 frames' },
        {
          time: '2026-10-03T12:01:00.000Z',
          text: 'Merged',
          seconds: 2.5,
          findings: [{ label: 'Halo', value: 0.4, unit: 'EV', verdict: 'watch' }],
          settings: settingsOf(sampleProject(), 'merge'),
        },
      ],
    };
    expect(parseProject(plain(project), 'a.zip')).toEqual(project);
    const empty = emptyProject('x', 'Untitled', '2026-01-01T00:00:00.000Z');
    expect(parseProject(plain(empty), 'b.zip')).toEqual(empty);
  });

  const broken: [string, (p: Record<string, unknown>) => void][] = [
    ['a field too many', (p) => (p.script = '<img>')],
    ['a field of a frame too many', (p) => ((p.frames as Record<string, unknown>[])[0].extra = 1)],
    ['no title', (p) => delete p.title],
    ['a number as text', (p) => ((p.frames as Record<string, unknown>[])[0].stops = '2')],
    [
      'a matrix that is not finite',
      (p) =>
        (Object.values(p.fits as Record<string, { matrix: unknown[] }>)[0].matrix = [
          1,
          0,
          null,
          0,
          1,
          0,
          0,
          0,
          1,
        ]),
    ],
    ['a hash that is none', (p) => ((p.frames as Record<string, unknown>[])[0].hash = '../../x')],
    ['an opacity of 300 %', (p) => ((p.layers as Record<string, unknown>[])[0].opacity = 3)],
    ['a blend mode of its own', (p) => ((p.layers as Record<string, unknown>[])[0].blend = 'toString')],
    ['a reference that is not there', (p) => ((p.set as Record<string, unknown>).reference = 'gone')],
    ['two frames of one identity', (p) => ((p.frames as Record<string, unknown>[])[1].id = 'dark')],
    ['a frame without facts', (p) => delete (p.frames as Record<string, unknown>[])[0].facts],
    ['a day that there is not', (p) => (p.changed = 'not a date')],
    ['a line of the record without a time', (p) => (p.log = [{ time: 'never', text: 'Merged' }])],
    ['a thirteenth month', (p) => (p.created = '2026-13-01T00:00:00.000Z')],
    [
      'a map that shows nothing',
      (p) =>
        (Object.values(p.fits as Record<string, { matrix: unknown[] }>)[0].matrix = Array<number>(9).fill(0)),
    ],
    [
      'a crop of a million',
      (p) => ((p.finish as Record<string, unknown>).crop = { x: 0, y: 0, width: 1e6, height: 1e6 }),
    ],
    ['two layers of one identity', (p) => (p.layers as unknown[]).push((p.layers as unknown[])[0])],
    ['half a character', (p) => (p.title = 'mill \ud83c')],
    [
      'a layer whose frame is missing',
      (p) => ((p.layers as Record<string, unknown>[])[0].source = { kind: 'frame', frame: 'gone' }),
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

  test('a project of version 1 opens as one of today', () => {
    const { kind, reference, referenceChosen, why, motion, merge } = sampleProject().set;
    const { ratio, upright, exposure } = sampleProject().finish;
    const { id, name, source, visible, opacity, blend, stops } = sampleProject().layers[0];
    const { match: _m, watchPoints: _w, ...rest } = plain(sampleProject());
    const old = {
      ...rest,
      version: 1,
      frames: sampleProject().frames.map(({ measures: _, ...frame }) => frame),
      set: { kind, reference, referenceChosen, why, motion, merge },
      layers: [{ id, name, source, visible, opacity, blend, stops, mask: { base: 'shown', strokes: [] } }],
      finish: { ratio, upright, exposure },
    };
    // noise reduction came later: what was finished without it stays without
    const { finish } = sampleProject();
    expect(parseProject(old, 'old.zip')).toEqual({ ...sampleProject(), finish: { ...finish, noise: 0 } });
  });

  test('the views of a bracketed panorama: merged first, under one head each, or apart', () => {
    const project = sampleProject({ kind: 'panorama' });
    const ids = project.frames.map((f) => f.id);
    const views = [{ head: ids[1], frames: ids }];
    const set = { ...project.set, views, reference: ids[0] };
    const bracketed: Project = { ...project, set };
    expect(parseProject(plain(bracketed), 'wide.zip')).toEqual(bracketed);
    // the reference of the set stands for its own view, and what is not in use is not of it
    expect(viewsOf(bracketed)).toEqual([{ head: project.frames[0], frames: project.frames }]);
    expect(joinedFrames(bracketed)).toEqual([project.frames[0]]);
    const without = { ...bracketed, frames: project.frames.map((f, i) => ({ ...f, used: i !== 2 })) };
    expect(viewsOf(without)[0].frames.map((f) => f.id)).toEqual(ids.slice(0, 2));
    const alone = { ...bracketed, frames: project.frames.map((f, i) => ({ ...f, used: i === 0 })) };
    expect(viewsOf(alone)).toEqual([]);
    const apart: Project = { ...bracketed, set: { ...set, other: { ...set.other, views: 'apart' } } };
    expect(viewsOf(apart)).toEqual([]);
    expect(joinedFrames(apart)).toHaveLength(3);
    expect(viewsOf({ ...bracketed, set: { ...set, kind: 'focus' } })).toEqual([]);
    // until version 7 all frames were joined as they were
    const { views: _v, other, ...rest } = project.set;
    const { views: _o, ...wishes } = other;
    const old = { ...plain(project), version: 6, set: { ...rest, other: wishes } };
    expect(parseProject(old, 'old.zip')).toEqual(project);
  });

  test('version 7: the border of a panorama was always cropped', () => {
    const project = sampleProject();
    const { border: _b, ...wishes } = project.set.other;
    const old = { ...plain(project), version: 7, set: { ...project.set, other: wishes } };
    expect(parseProject(old, 'old.zip')).toEqual(project);
  });

  test('a panorama is kept whole, strays included, and every kind has a merge of its own', () => {
    const project = sampleProject();
    const turned: Project = {
      ...project,
      task: 'Make one wide picture.',
      set: { ...project.set, kind: 'panorama', kindChosen: true },
      panorama: {
        frames: project.frames.map((f) => f.id),
        fit: {
          lens: { focalPx: 900, k1: 0, width: 600, height: 400 },
          rotations: project.frames.map((_, i) => (i === 0 ? null : IDENTITY)),
          pairs: [{ a: 0, b: 1, overlap: 0.4, matches: 80, agreeing: 60, residual: 0.2, parallax: 0.5 }],
        },
      },
    };
    expect(parseProject(plain(turned), 'wide.zip')).toEqual(turned);
    // bent to a rectangle: a lattice has a place for each of its vertices
    const mesh = {
      ...{ projection: 'panini' as const, left: -1, top: -0.5, across: 2, down: 1, columns: 2, rows: 2 },
      ...{ places: [-1, -0.4, 1, -0.5, -1, 0.5, 1, 0.4], stretch: 12, bow: 0.0002 },
    };
    const { panorama } = turned;
    const bent = { ...turned, ...(panorama ? { panorama: { ...panorama, mesh } } : {}) };
    expect(parseProject(plain(bent), 'bent.zip')).toEqual(bent);
    const torn = { ...bent, panorama: { ...panorama, mesh: { ...mesh, columns: 3 } } };
    expect(() => parseProject(plain(torn as Project), 'torn.zip')).toThrow('not a whole Marsh project');
    const broken = { ...plain(turned), set: { ...turned.set, kind: 'collage' } };
    expect(() => parseProject(broken, 'x.zip')).toThrow('not a whole Marsh project');
    const keys = SET_KINDS.map((kind) => mergeKey(sampleProject({ kind })));
    expect(new Set(keys).size).toBe(SET_KINDS.length);
  });
  test('a file of a later version says so', () =>
    expect(() =>
      parseProject({ ...plain(sampleProject()), version: PROJECT_VERSION + 1 }, 'new.zip'),
    ).toThrow(`newer Marsh (version ${PROJECT_VERSION + 1})`));
});

describe('what the recipe asks for', () => {
  test('frames are merged darkest first, those left out are not', () => {
    const project = sampleProject();
    expect(mergedFrames(project).map((m) => m.frame.id)).toEqual(['dark', 'mid', 'light']);
    const fits = {
      ...project.fits,
      [fitKey(project.frames[1], project.frames[0], { motion: 'auto' })]: sampleFit(0, 0, {
        fitted: false,
        why: 'blurred',
      }),
    };
    expect(mergedFrames({ ...project, fits }).map((m) => m.frame.id)).toEqual(['mid', 'light']);
    expect(byExposure([sampleFrame('b', 1), sampleFrame('a', -1)]).map((f) => f.id)).toEqual(['a', 'b']);
  });

  test('the key of the merge changes with whatever the merge depends on, and with nothing else', () => {
    const project = sampleProject();
    const key = mergeKey(project);
    expect(key).toBeDefined();
    expect(mergeKey({ ...project, title: 'Other', finish: { ...project.finish, exposure: 1 } })).toBe(key);
    expect(
      mergeKey({ ...project, set: { ...project.set, merge: { ...project.set.merge, contrast: 0.5 } } }),
    ).not.toBe(key);
    expect(
      mergeKey({
        ...project,
        frames: project.frames.map((f) => (f.id === 'light' ? { ...f, used: false } : f)),
      }),
    ).not.toBe(key);
  });

  test('another way to move asks for new fits', () => {
    const project = sampleProject();
    const freed: Project = { ...project, set: { ...project.set, motion: 'perspective' } };
    expect(fitOf(freed, project.frames[0])).toBeUndefined();
    expect(mergeKey(freed)).toBeUndefined();
  });

  test('the proposed crop is what all frames cover; the user’s own goes before it', () => {
    const project = sampleProject();
    // frame ‘dark’ covers x ≥ 4 and y ≤ 396, ‘light’ x ≤ 589 and y ≥ 6
    expect(proposedCrop(project)).toEqual({ x: 4, y: 6, width: 586, height: 391 });
    const own = { x: 1, y: 2, width: 30, height: 40 };
    expect(cropOf({ ...project, finish: { ...project.finish, crop: own } })).toEqual(own);
  });
});
