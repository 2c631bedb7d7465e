import { describe, expect, test } from '@jest/globals';
import { type Edit } from '@/core/edits/edit';
import { PLAIN_LAYER, type PictureLayer } from '@/core/layers/layer';
import { halveImage } from '@/core/raster/halveImage';
import { linearToSrgb } from '@/core/raster/srgb';
import { type Project } from '@/core/recipe/project';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { paint } from '@/tests/paint';
import { type SceneParts, sceneOf, sizedProject } from '@/tests/sampleScene';
import { drawPicture, drawPlace, TILE } from './drawPicture';
import { plainWorld } from './followGraph';
import { layerPicture } from './layerPicture';
import { proofOf } from './proofOf';
import { renderView } from './renderView';
import { tracePoint } from './tracePoint';
import { type ViewScene } from './viewScene';

const [W, H] = [200, 140];
const whole = { x: 0, y: 0, width: W, height: H };
const grey = linearToSrgb(0.18);
/** grey above a line that falls by 3° to the right, dark below */
const slanted = paint(
  W,
  H,
  (x, y) => (y < 70 + 0.0524 * (x - 100) ? [grey, grey * 0.9, grey * 0.8] : [0.2, 0.2, 0.2]),
  65535,
);
const plain: Project = { ...sizedProject(W, H), edits: [] };
const brighter: Edit = {
  id: 'z',
  kind: 'zones',
  settings: { zones: [{ at: 0, by: 1 }] },
  amount: 1,
  on: true,
};
const exposure = (stops: number): Edit => ({
  id: 'x',
  kind: 'exposure',
  settings: { stops },
  amount: 1,
  on: true,
});
const merge = { merge: slanted, noise: 0.01 };

function drawn(project: Project, parts: SceneParts = merge, area = whole): readonly Float32Array[] {
  const { picture } = sceneOf(project, parts).scene;
  if (!picture) throw new Error('no picture');
  return drawPicture(picture, picture.finished, 0, area, 'lanczos', plainWorld(picture.made));
}

const frameLayer = (id: string, frame: string, change: Partial<PictureLayer> = {}): PictureLayer => ({
  ...PLAIN_LAYER,
  id,
  name: id,
  kind: 'picture',
  source: { kind: 'frame', frame },
  ...change,
});

const painted = (x: number, y: number, softness: number): Region => ({
  ...EVERYWHERE,
  id: 'w',
  name: '',
  parts: [
    {
      how: 'add',
      part: {
        kind: 'strokes',
        settings: { strokes: [{ action: 'reveal', size: 0.3, softness, flow: 1, points: [[x, y, 1]] }] },
      },
      turned: false,
      on: true,
    },
  ],
});

describe('the finished picture', () => {
  test('is straightened: the slanted edge runs level', () => {
    const level = [0, 64.76, 200, 75.24] as const;
    const [plane] = drawn({ ...plain, geometry: { ...plain.geometry, straighten: { level } } });
    const edge = (of: Float32Array, x: number): number =>
      Array.from({ length: H }, (_, y) => y).findIndex((y) => y > 40 && of[y * W + x] < 0.3);
    expect(Math.abs(edge(plane, 40) - edge(plane, 160))).toBeLessThanOrEqual(1);
    expect(edge(drawn(plain)[0], 160) - edge(plane, 160)).toBeGreaterThan(2);
  });

  test('a rectangle of it is what that rectangle of the whole is, to the last bit', () => {
    const project: Project = {
      ...plain,
      edits: [
        { id: 'n', kind: 'noise', settings: { strength: 0.5 }, amount: 1, on: true },
        exposure(0.3),
        { id: 's', kind: 'sharpen', settings: { radius: 1.7, amount: 0.8, edge: 0.2 }, amount: 1, on: true },
      ],
    };
    const all = drawn(project);
    const area = { x: 60, y: 50, width: 40, height: 30 };
    const part = drawn(project, merge, area);
    for (let y = 0; y < 30; y += 3)
      for (let x = 0; x < 40; x += 3) expect(part[1][y * 40 + x]).toBe(all[1][(y + 50) * W + x + 60]);
  });

  test('a small place evaluated for itself is the same but for rounding', () => {
    const project = { ...plain, edits: [exposure(0.3), brighter] };
    const { picture } = sceneOf(project, merge).scene;
    if (!picture) throw new Error('no picture');
    const area = { x: 90, y: 60, width: 5, height: 5 };
    const [R] = drawPlace(
      picture,
      picture.finished,
      { level: 0, area, kernel: 'lanczos' },
      plainWorld(picture.made),
    );
    const [all] = drawn(project);
    R.forEach((v, i) => expect(v).toBeCloseTo(all[(60 + Math.floor(i / 5)) * W + 90 + (i % 5)], 5));
    expect(TILE).toBeGreaterThan(W);
  });

  test('edits of a set, a layer and the whole each change it; where a region is, and as far as they are taken over', () => {
    const at = (project: Project): number => drawn(project)[1][20 * W + 50];
    const value = at(plain);
    const [set] = plain.sets;
    const [base] = plain.layers;
    expect(at({ ...plain, sets: [{ ...set, edits: [brighter] }] })).toBeGreaterThan(value * 1.2);
    expect(at({ ...plain, edits: [brighter] })).toBeGreaterThan(value * 1.2);
    expect(at({ ...plain, layers: [{ ...base, edits: [brighter] }] })).toBeGreaterThan(value * 1.2);
    expect(at({ ...plain, edits: [{ ...brighter, on: false }] })).toBe(value);
    const half = at({ ...plain, edits: [{ ...brighter, amount: 0.5 }] });
    expect(half).toBeGreaterThan(value * 1.05);
    expect(half).toBeLessThan(at({ ...plain, edits: [brighter] }));
    // twenty rows down the gradient has begun to fade, on its dark side nothing is changed
    const fading = (x0: number, x1: number): Edit => ({
      ...brighter,
      where: {
        ...EVERYWHERE,
        id: 'g',
        name: '',
        parts: [
          {
            how: 'add',
            part: { kind: 'gradient', settings: { x0, y0: 0, x1, y1: 0 } },
            turned: false,
            on: true,
          },
        ],
      },
    });
    expect(at({ ...plain, edits: [fading(0.3, 0.4)] })).toBeGreaterThan(value * 1.2);
    expect(at({ ...plain, edits: [fading(0.1, 0.2)] })).toBeCloseTo(value, 6);
  });

  test('light above white survives until it is shown', () => {
    const light = paint(W, H, () => [0.9, 0.9, 0.9], 65535);
    const [plane] = drawn(
      { ...plain, sets: [{ ...plain.sets[0], edits: [exposure(2)] }], edits: [exposure(-2)] },
      {
        merge: light,
      },
    );
    expect(plane[5000]).toBeCloseTo(0.9, 3);
  });

  test('groups are made one before they are laid over; what changes what is beneath changes that only', () => {
    const light = paint(W, H, () => [0.8, 0.8, 0.8], 65535);
    const parts = { ...merge, frames: { light, dark: light } };
    const inner = [frameLayer('a', 'light', { opacity: 0.5 }), frameLayer('b', 'dark', { opacity: 0.5 })];
    const grouped: Project = {
      ...plain,
      layers: [
        ...plain.layers,
        { ...PLAIN_LAYER, id: 'g', name: 'g', kind: 'group', opacity: 0.5, layers: inner },
      ],
    };
    // two halves over nothing are there by three quarters; half of that is laid over
    const at = (project: Project, i = 20 * W + 50): number => drawn(project, parts)[1][i];
    const before = at(plain);
    expect(at(grouped)).toBeCloseTo(before + 0.375 * (0.8 - before), 3);
    const beneath: Project = {
      ...plain,
      layers: [
        ...plain.layers,
        {
          ...PLAIN_LAYER,
          id: 'u',
          name: 'u',
          kind: 'beneath',
          edits: [exposure(1)],
          where: painted(0.25, 0.1, 0),
        },
      ],
    };
    expect(at(beneath)).toBeGreaterThan(before * 1.2);
    expect(at(beneath, 20 * W + 180)).toBe(at(plain, 20 * W + 180));
  });
});

describe('views of the finished picture', () => {
  test('edges and clipped places are hatched', () => {
    const { scene } = sceneOf(plain, merge);
    const node = scene.picture?.finished ?? '';
    const sharpen = { radius: 1.7, amount: 0, edge: 0.25 };
    const edges = renderView(scene, { kind: 'edges', node, sharpen }, 0, whole, 'lanczos');
    const shown = renderView(scene, { kind: 'finished' }, 0, whole, 'lanczos');
    let differs = 0;
    for (let i = 5 * W * 4; i < 40 * W * 4; i++) if (edges[i] !== shown[i]) differs++;
    // the even sky is kept out of sharpening, the edge is not
    expect(differs).toBeGreaterThan(1000);
    const burnt = sceneOf(plain, { merge: paint(W, H, () => [1, 1, 1]) }).scene;
    expect(renderView(burnt, { kind: 'proof' }, 0, whole, 'lanczos').some((v) => v < 200)).toBe(true);
  });
});

describe('trace', () => {
  const shot = paint(W, H, () => [0.3, 0.3, 0.3]);
  const traced = (
    project: Project,
    parts: SceneParts,
  ): { scene: ViewScene; found: ReturnType<typeof tracePoint> } => {
    const { scene, compiled } = sceneOf(project, parts, { spine: true });
    return { scene, found: tracePoint(scene, { kind: 'finished' }, 50, 20, compiled.spine) };
  };

  test('names every step with its value, and the one that moved it most', () => {
    const project: Project = {
      ...plain,
      layers: [
        ...plain.layers,
        frameLayer('l', 'light', { opacity: 0.5, edits: [{ ...exposure(0.2), id: 'lx' }] }),
      ],
      edits: [brighter, exposure(0.1)],
    };
    const { found } = traced(project, { ...merge, frames: { mid: shot, light: shot } });
    expect(found?.steps.map((s) => [s.of, s.id, s.at].filter(Boolean).join(' '))).toEqual([
      'frame mid',
      'merge set',
      'layer l',
      'edit lx l',
      // light before tone, whatever was made first
      'edit x whole',
      'edit z whole',
    ]);
    expect(found?.steps[0].rgb[0]).toBeCloseTo(77, 3);
    expect(found?.steps[1].rgb[0]).toBeCloseTo(255 * grey, 0);
    expect(found?.steps[found.most ?? 0].id).toBe('z');
    const last = found?.steps[found.steps.length - 1];
    expect(Math.round(last?.rgb[1] ?? 0)).toBe(found?.rgb[1]);
  });

  test('where nothing moves it visibly, no step is named', () => {
    const { found } = traced(plain, { merge: shot, frames: { mid: shot } });
    expect(found?.most).toBeUndefined();
  });
});

describe('a layered file and the proof', () => {
  const shot = paint(W, H, () => [0.3, 0.3, 0.3]);

  test('a layer holds its region as alpha and its own colour, straight at soft edges too', () => {
    const project: Project = {
      ...plain,
      layers: [...plain.layers, frameLayer('l', 'light', { where: painted(0.25, 0.35, 0.8), opacity: 0.4 })],
    };
    const { scene } = sceneOf(project, { ...merge, frames: { light: shot } }, { alone: 'l' });
    const { picture } = scene;
    if (!picture) throw new Error('no picture');
    const rgba = layerPicture(picture, picture.finished, whole);
    const at = (x: number, y: number): number[] => [...rgba.subarray((y * W + x) * 4, (y * W + x) * 4 + 4)];
    expect(at(50, 70)).toEqual([77, 77, 77, 255]);
    expect(at(180, 20)[3]).toBe(0);
    // half-way out it is half there, and as light as in its middle
    const soft = at(50 + 18, 70);
    expect(soft[3]).toBeGreaterThan(20);
    expect(soft[3]).toBeLessThan(235);
    expect(soft.slice(0, 3)).toEqual([77, 77, 77]);
  });

  test('a painted layer that differs spills; the proof says where', () => {
    const bright = paint(W, H, () => [0.9, 0.9, 0.9]);
    const project: Project = {
      ...plain,
      layers: [...plain.layers, frameLayer('l', 'light', { where: painted(0.25, 0.2, 0.1) })],
    };
    const spill = (of: Project) => {
      const { scene, compiled } = sceneOf(of, { ...merge, frames: { light: bright } });
      const layers = compiled.layers.flatMap(({ painted: byHand, beneath, everywhere, mask }) =>
        byHand && everywhere && mask ? [{ beneath, everywhere, mask }] : [],
      );
      if (!scene.picture) throw new Error('no picture');
      const proof = { picture: scene.picture, width: W, height: H, painted: layers };
      return proofOf(proof, halveImage(slanted), whole).find((f) => f.id === 'layers.spill');
    };
    expect(spill(project)?.verdict).not.toBe('pass');
    expect(spill(project)?.where).toBeDefined();
    expect(spill(plain)).toBeUndefined();
  });
});
