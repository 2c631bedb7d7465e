import { deltaE2000, labOf } from '../colour/deltaE';
import { adjusts, NO_ADJUST } from '../match/adjust';
import { IDENTITY, transform } from '../raster/matrix3';
import { srgbToLinear } from '../raster/srgb';
import { warpImage } from '../raster/warp';
import { UNFINISHED } from './beforeScene';
import { finishedPlanes, resultPlanes } from './finishedPlanes';
import { renderView } from './renderView';
import { type View, type ViewScene } from './viewScene';

/** Where in the work a value of a trace arose. */
export type TraceStep = 'frames' | 'merge' | 'layers' | 'match' | 'finish';

/** The pixel after one step. */
export interface Traced {
  readonly step: TraceStep;
  /** what was done: a layer's id, or the name of the change */
  readonly what: string;
  /** codes 0…255, not rounded */
  readonly rgb: readonly [number, number, number];
  /** difference to the step before, CIEDE2000; 0 for the first */
  readonly moved: number;
}

/** What is known about one pixel of the picture. */
export interface Trace {
  /** codes as shown, 0…255 */
  readonly rgb: readonly [number, number, number];
  /** stops of its luminance from middle grey 0.18; undefined for black */
  readonly zone?: number;
  /** share of each merged frame, 0…1, largest first */
  readonly shares: readonly { readonly frame: string; readonly share: number }[];
  readonly steps: readonly Traced[];
  /** index of the step that moved the pixel most; undefined when none moved it visibly */
  readonly most?: number;
}

/** a change under this difference is no change to the eye */
const VISIBLE = 0.5;

type Rgb = readonly [number, number, number];

/** Whether a view shows the straightened grid. */
export function isStraightened(view: View): boolean {
  return ['finished', 'edges', 'proof'].includes(view.kind) || (view.kind === 'before' && view.finished);
}

/**
 * Reads one full-size pixel of the grid that the view shows: the shown codes, the result's zone, the frames that made it, and its value
 * after every step. Undefined outside the picture.
 */
export function tracePoint(scene: ViewScene, view: View, x: number, y: number): Trace | undefined {
  const [px, py] = [Math.round(x), Math.round(y)];
  if (px < 0 || py < 0 || px >= scene.width || py >= scene.height) return undefined;
  const straightened = isStraightened(view);
  const area = { x: px, y: py, width: 1, height: 1 };
  const shown = renderView(scene, view.kind === 'mask' ? { kind: 'result' } : view, 0, area, 'lanczos');
  const [rx, ry] = (straightened ? transform(scene.finish.straighten, px, py) : [px, py]).map(Math.round);
  const { merge } = scene;
  const steps = tracedSteps(scene, straightened, px, py, rx, ry);
  const last = steps[steps.length - 1];
  const [r, g, b] = last ? last.rgb.map((v) => srgbToLinear(v / 255)) : [0, 0, 0];
  const luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const inside = rx >= 0 && ry >= 0 && rx < scene.width && ry < scene.height;
  const at = (ry >> 1) * ((scene.width + 1) >> 1) + (rx >> 1);
  const most = steps.reduce((best, s, i) => (s.moved > (steps[best]?.moved ?? 0) ? i : best), 0);
  return {
    rgb: [shown[0], shown[1], shown[2]],
    ...(luminance > 0 ? { zone: Math.log2(luminance / 0.18) } : {}),
    shares:
      merge && inside
        ? merge.frames
            .map((frame, f) => ({ frame, share: merge.shares[f][at] / 255 }))
            .sort((p, q) => q.share - p.share)
        : [],
    steps,
    ...(steps[most] && steps[most].moved >= VISIBLE ? { most } : {}),
  };
}

function tracedSteps(
  scene: ViewScene,
  straightened: boolean,
  px: number,
  py: number,
  rx: number,
  ry: number,
): Traced[] {
  const steps: Traced[] = [];
  const add = (step: TraceStep, what: string, planes: readonly Float32Array[]): void => {
    const rgb: Rgb = [planes[0][0] * 255, planes[1][0] * 255, planes[2][0] * 255];
    const before = steps[steps.length - 1];
    const lab = (v: Rgb) =>
      labOf(srgbToLinear(v[0] / 255), srgbToLinear(v[1] / 255), srgbToLinear(v[2] / 255));
    steps.push({ step, what, rgb, moved: before ? deltaE2000(lab(before.rgb), lab(rgb)) : 0 });
  };
  const at = { x: rx, y: ry, width: 1, height: 1 };
  const reference = scene.frames.find((f) => f.stops === 0 && f.matrix?.every((v, i) => v === IDENTITY[i]));
  if (reference) add('frames', reference.id, warpImage(reference.levels[0], IDENTITY, at, 'bilinear'));
  if (!scene.merge) return steps;
  add('merge', 'merge', warpImage(scene.merge.levels[0], IDENTITY, at, 'bilinear'));
  const plain = {
    ...scene,
    layers: scene.layers.map((l) => ({ ...l, adjust: NO_ADJUST })),
    match: { set: NO_ADJUST, whole: NO_ADJUST },
  };
  scene.layers.forEach((layer, i) => {
    const alone = i === 0 && layer.source === 'merge' && layer.opacity === 1 && layer.stops === 0;
    if (!alone)
      add(
        'layers',
        layer.id,
        resultPlanes({ ...plain, layers: plain.layers.slice(0, i + 1) }, 0, at, 'lanczos'),
      );
  });
  const layered = { ...plain, match: { ...plain.match, set: scene.match.set } };
  if (adjusts(scene.match.set)) add('match', 'set', resultPlanes(layered, 0, at, 'lanczos'));
  scene.layers.forEach((layer, i) => {
    if (!adjusts(layer.adjust)) return;
    const layers = scene.layers.map((l, k) => (k <= i ? l : { ...l, adjust: NO_ADJUST }));
    add('match', layer.id, resultPlanes({ ...layered, layers }, 0, at, 'lanczos'));
  });
  if (adjusts(scene.match.whole)) add('match', 'whole', resultPlanes(scene, 0, at, 'lanczos'));
  const out = straightened ? { x: px, y: py, width: 1, height: 1 } : at;
  const { finish } = scene;
  const straighten = straightened ? finish.straighten : IDENTITY;
  const bare = { ...UNFINISHED, straighten };
  const finished = (what: string, part: Partial<typeof finish>): void =>
    add('finish', what, finishedPlanes({ ...scene, finish: { ...bare, ...part } }, 0, out, 'lanczos'));
  const { noise, exposure, sharpen } = finish;
  if (noise > 0 && scene.merge.noise > 0) finished('noise', { noise });
  if (exposure !== 0) finished('exposure', { noise, exposure });
  if (sharpen.amount > 0) finished('sharpen', { noise, exposure, sharpen });
  return steps;
}
