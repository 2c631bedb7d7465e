import { describe, expect, test } from '@jest/globals';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { type Rectangle } from '@/core/raster/raster';
import { type Project } from '@/core/recipe/project';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { paint, waves } from '@/tests/paint';
import { sceneOf, sizedProject } from '@/tests/sampleScene';
import { followGraph } from './followGraph';
import { isPatch, renderShare, sharesOf } from './renderShare';
import { renderView } from './renderView';
import { type PictureScene, type ViewScene } from './viewScene';

const [W, H] = [600, 420];
const whole: Rectangle = { x: 0, y: 0, width: W, height: H };
const texture = waves(9, 30);
const merge = paint(W, H, (x, y) => [0.2 + 0.6 * texture(x, y), 0.5, 0.3 + 0.2 * texture(y, x)]);

const where = (x: number): Region => ({
  ...{ ...EVERYWHERE, id: 'where', name: 'Where', feather: 0.01 },
  parts: [
    {
      ...{ how: 'add', turned: false, on: true },
      part: { kind: 'ellipse', settings: { x, y: 0.35, across: 0.3, down: 0.2, turn: 10, soft: 0.6 } },
    },
  ],
});

/** A picture with a fill over it that lies in a feathered ellipse. */
function sceneWith(x: number): ViewScene & { readonly picture: PictureScene } {
  const base = sizedProject(W, H);
  const fill: Layer = {
    ...{ ...PLAIN_LAYER, id: 'fill', name: 'Fill', kind: 'fill', blend: 'multiply', where: where(x) },
    fill: { kind: 'colour', colour: [0.2, 0.5, 0.9] },
  };
  const project: Project = { ...base, edits: [], layers: [...base.layers, fill] };
  const { scene } = sceneOf(project, { merge });
  if (!scene.picture) throw new Error('no picture');
  return { ...scene, picture: scene.picture };
}

const FINISHED = { kind: 'finished' } as const;

describe('a view that several draw', () => {
  const scene = sceneWith(0.5);
  const alone = (area: Rectangle) => renderView(scene, FINISHED, 0, area, 'lanczos');

  test.each([2, 3])('drawn by %i is what one draws, to the last bit', (of) => {
    const area = { x: 37, y: 11, width: 520, height: 390 };
    const out = new Uint8ClampedArray(4 * area.width * area.height);
    const shares = sharesOf(FINISHED, area, of);
    expect(shares).toHaveLength(of);
    for (const share of shares) {
      const before = out.filter((v) => v !== 0).length;
      renderShare(scene, FINISHED, 0, area, 'lanczos', undefined, share, out);
      // each draws something of its own
      expect(out.filter((v) => v !== 0).length).toBeGreaterThan(before);
    }
    expect(Buffer.from(out).equals(Buffer.from(alone(area)))).toBe(true);
  });

  test('a part of one tile falls to one, always the same; what looks beside a tile is not shared', () => {
    const [part, beside] = [
      { x: 300, y: 20, width: 40, height: 40 },
      { x: 420, y: 200, width: 9, height: 9 },
    ];
    expect(sharesOf(FINISHED, part, 2)).toEqual([{ index: 1, of: 2 }]);
    expect(sharesOf(FINISHED, beside, 2)).toEqual([{ index: 1, of: 2 }]);
    const sharpen = { amount: 1, radius: 1, edges: 0 };
    expect(sharesOf({ kind: 'edges', node: 'n', sharpen } as never, whole, 2)).toEqual([{ index: 0, of: 1 }]);
  });

  test('a patch is what the whole has there, and asks for no more than it must of what changes', () => {
    const followed = followGraph(1e9);
    const pictures = new Set<string>();
    const patch = { x: 230, y: 120, width: 60, height: 50 };
    expect([isPatch(patch), isPatch(whole)]).toEqual([true, false]);
    for (const x of [0.5, 0.47, 0.44]) {
      const now = sceneWith(x);
      const world = followed.world(now.picture, now.picture.finished, 'table', x < 0.5);
      const out = new Uint8ClampedArray(4 * patch.width * patch.height);
      for (const share of sharesOf(FINISHED, patch, 2))
        renderShare(now, FINISHED, 0, patch, 'lanczos', world, share, out);
      const expected = renderView(now, FINISHED, 0, patch, 'lanczos');
      const most = Math.max(...out.map((v, i) => Math.abs(v - expected[i])));
      expect(most).toBeLessThanOrEqual(1);
      expect(world.keeps(now.picture.finished)).toBe(x === 0.5);
      pictures.add(Buffer.from(out).toString('base64'));
    }
    // the ellipse that moves lies in the patch
    expect(pictures.size).toBe(3);
  });
});
