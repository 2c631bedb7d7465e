import { firstPlace } from '@/core/layers/platePlace';
import { PLAIN_MASK } from '@/core/mask/mask';
import { type Project } from '@/core/recipe/project';
import { settingsOf } from '@/core/recipe/settings';
import { sampleFrame, sampleProject } from '@/tests/sampleProject';

/** Projects with something in every part of the recipe, from which hostile ones are made. */
export function sampleProjects(): Project[] {
  const bracket = sampleProject();
  const plate = sampleFrame('heron', 0, { used: false });
  const full: Project = {
    ...bracket,
    task: 'Make one of it.',
    frames: [...bracket.frames, { ...plate, plate: firstPlace(plate, bracket.frames[1], 0) }],
    layers: [
      ...bracket.layers,
      {
        ...{ id: 'l1', name: 'light', source: { kind: 'frame', frame: 'light' }, visible: true },
        ...{ opacity: 0.4, blend: 'screen', stops: -1.5 },
        adjust: {
          neutral: { x: 3, y: 4, before: [90, 100, 110], gains: [1.1, 1, 0.9] },
          zones: [{ at: -3, by: 0.5 }],
          saturation: 0.8,
        },
        mask: {
          ...PLAIN_MASK,
          ...{ base: 'hidden', range: { from: -3, to: 1, soft: 0.5 }, feather: 0.01, follow: 0.01 },
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
    ],
    finish: {
      ...bracket.finish,
      ...{ crop: { x: 3, y: 4, width: 200, height: 300 }, straighten: { level: [1, 2, 30, 4] } },
    },
    watchPoints: [{ id: 'w', x: 10, y: 20 }],
    printRegion: { x: 1, y: 2, width: 30, height: 40 },
    log: [
      { time: '2026-10-03T12:00:00.000Z', text: 'Added 3 frames' },
      {
        ...{ time: '2026-10-03T12:01:00.000Z', text: 'Merged', seconds: 2.5 },
        findings: [{ label: 'Halo', value: 0.4, unit: 'EV', verdict: 'watch' }],
        settings: settingsOf(bracket, 'merge'),
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
  return {
    ...project,
    set: { ...project.set, views: [{ head: 'mid', frames: ['mid', 'light'] }] },
    panorama: {
      frames: project.frames.map((f) => f.id),
      fit: {
        lens: { focalPx: 700, k1: 0.01, width: 600, height: 400 },
        rotations: [turn(-20), turn(0), turn(20)],
        pairs: [
          {
            a: 0,
            b: 1,
            overlap: 0.3,
            matches: 90,
            agreeing: 80,
            residual: 0.1,
            parallax: 0.2,
            where: { x: 9, y: 9 },
          },
        ],
      },
    },
  };
}
