import { firstPlace } from '@/core/layers/place';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { type Project } from '@/core/recipe/project';
import { settingsOf } from '@/core/recipe/settings';
import { sampleFrame, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { referenceRegistration } from '@/core/register/registration';

type Given<L extends Layer> = Omit<L, keyof typeof PLAIN_LAYER> & Partial<L>;
/** What makes a layer another one than a plain one. */
type NewLayer = { [K in Layer['kind']]: Given<Extract<Layer, { kind: K }>> }[Layer['kind']];

/** Projects with something in every part of the recipe, from which hostile ones are made. */
export function sampleProjects(): Project[] {
  const bracket = sampleProject();
  const plate = sampleFrame('heron', 0, { used: false });
  const painted: Region = {
    ...EVERYWHERE,
    ...{ id: 'w1', name: '', feather: 0.01, follow: 0.01 },
    parts: [
      {
        how: 'add',
        part: {
          kind: 'strokes',
          settings: {
            strokes: [
              {
                ...{ action: 'reveal', size: 0.1, softness: 1, flow: 0.3 },
                points: [
                  [0.1, 0.2, 1],
                  [0.3, 0.2, 0.5],
                  [0.4, 0.3, 0.5],
                ],
              },
            ],
          },
        },
        ...{ turned: false, on: true },
      },
      {
        how: 'keep',
        part: { kind: 'tone', settings: { from: -3, to: 1, soft: 0.5 } },
        ...{ turned: true, on: true },
      },
      {
        how: 'remove',
        part: {
          kind: 'polygon',
          settings: {
            corners: [
              [0.1, 0.1],
              [0.5, 0.1],
              [0.3, 0.5],
            ],
          },
        },
        ...{ turned: false, on: false },
      },
    ],
  };
  const edits: Project['edits'] = [
    {
      ...{ id: 'n', kind: 'neutral', amount: 1, on: true },
      settings: { x: 3, y: 4, before: [90, 100, 110], gains: [1.1, 1, 0.9] },
    },
    {
      ...{ id: 'z', kind: 'zones', amount: 0.6, on: true, where: 'sky' },
      settings: { zones: [{ at: -3, by: 0.5 }] },
    },
    { ...{ id: 's', kind: 'saturation', amount: 1, on: false }, settings: { factor: 0.8 } },
  ];
  const layer = (of: NewLayer): Layer => ({ ...PLAIN_LAYER, ...of });
  const full: Project = {
    ...bracket,
    task: 'Make one of it.',
    frames: [...bracket.frames, plate],
    regions: [
      {
        ...EVERYWHERE,
        ...{ id: 'sky', name: 'the sky' },
        parts: [
          {
            how: 'add',
            part: { kind: 'gradient', settings: { x0: 0.5, y0: 0, x1: 0.5, y1: 0.3 } },
            ...{ turned: false, on: true },
          },
        ],
      },
    ],
    edits: [...bracket.edits, ...edits],
    layers: [
      ...bracket.layers,
      layer({
        id: 'l1',
        name: 'light',
        kind: 'picture',
        source: { kind: 'frame', frame: 'light' },
        opacity: 0.4,
        blend: 'screen',
        where: painted,
        edits: edits.map((e) => ({ ...e, id: `l1${e.id}` })),
      }),
      layer({
        id: 'g',
        name: 'birds',
        kind: 'group',
        layers: [
          layer({
            id: 'l2',
            name: 'heron',
            kind: 'picture',
            source: { kind: 'plate', frame: plate.id },
            place: firstPlace(plate, bracket.frames[1], 0),
          }),
          layer({ id: 'f', name: 'haze', kind: 'fill', fill: { kind: 'colour', colour: [0.5, 0.6, 0.7] } }),
        ],
      }),
      layer({ id: 'b', name: 'all', kind: 'beneath' }),
    ],
    geometry: {
      ...bracket.geometry,
      ...{ crop: { x: 3, y: 4, width: 200, height: 300 }, straighten: { level: [1, 2, 30, 4] } },
    },
    watchPoints: [{ id: 'w', x: 10, y: 20 }],
    printRegion: { x: 1, y: 2, width: 30, height: 40 },
    log: [
      { time: '2026-10-03T12:00:00.000Z', text: 'Added 3 frames' },
      {
        ...{ time: '2026-10-03T12:01:00.000Z', text: 'Merged', seconds: 2.5 },
        findings: [{ label: 'Halo', value: 0.4, unit: 'EV', verdict: 'watch' }],
        settings: settingsOf(bracket, bracket.sets[0], 'merge'),
      },
    ],
  };
  return [
    full,
    panorama(),
    ...(['focus', 'moments', 'swap', 'stack', 'developments'] as const).map((kind) =>
      sampleProject({ kind }),
    ),
  ];
}

/** A row of three frames, turned by 20° each. */
function panorama(): Project {
  const project = sampleProject({ kind: 'panorama' });
  const turn = (
    degrees: number,
  ): [number, number, number, number, number, number, number, number, number] => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return [c, 0, s, 0, 1, 0, -s, 0, c];
  };
  const bracketed = withSet(project, { views: [{ head: 'mid', frames: ['mid', 'light'] }] });
  const fit = referenceRegistration();
  // a view's bracket is joined by its head alone
  const joined = ['dark', 'mid'];
  return withFits(
    bracketed,
    { dark: fit, mid: fit, light: fit },
    {
      frames: joined,
      fit: {
        lens: { focalPx: 700, k1: 0.01, width: 600, height: 400 },
        rotations: [turn(-20), turn(0)],
        pairs: [
          {
            ...{ a: 0, b: 1, overlap: 0.3, matches: 90, agreeing: 80, residual: 0.1, parallax: 0.2 },
            where: { x: 9, y: 9 },
          },
        ],
      },
    },
  );
}
