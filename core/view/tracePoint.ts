import { deltaE2000, labOf } from '../colour/deltaE';
import { type SpineStep } from '../graph/compiledPicture';
import { pictureAtHand } from '../raster/awayPixels';
import { IDENTITY, transform } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { srgbToLinear } from '../raster/srgb';
import { warpImage } from '../raster/warp';
import { drawPlace } from './drawPicture';
import { plainWorld } from './followGraph';
import { renderView } from './renderView';
import { isOfSet, isStraightened, type View, type ViewScene } from './viewScene';

/** The pixel after one step. */
export interface Traced {
  /** what was done: the reference as it was shot, or a step of the spine */
  readonly of: 'frame' | SpineStep['of'];
  /** id of the frame, the set, the layer or the edit */
  readonly id: string;
  /** where an edit is: a set's or a layer's id, or the whole */
  readonly at?: string;
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

/**
 * Reads one full-size pixel of the grid that the view shows: the shown codes, the result's zone, the frames that made it, and its value
 * after every step. Undefined outside of what is shown.
 * @param spine the steps of the picture, in order
 * @param base whether the set that is looked at is the base, whose frames made the pixel
 */
export function tracePoint(
  scene: ViewScene,
  view: View,
  x: number,
  y: number,
  spine: readonly SpineStep[],
  base = true,
): Trace | undefined {
  const [px, py] = [Math.round(x), Math.round(y)];
  const { width, height } = isOfSet(view) ? scene.set : scene;
  if (px < 0 || py < 0 || px >= width || py >= height) return undefined;
  const area = { x: px, y: py, width: 1, height: 1 };
  const shown = renderOne(scene, view, area);
  const straight = isStraightened(view);
  const straighten = scene.picture?.straighten ?? IDENTITY;
  const [rx, ry] = (straight ? transform(straighten, px, py) : [px, py]).map(Math.round);
  const { merge } = scene.set;
  const steps = tracedSteps(scene, spine, straight, px, py, rx, ry);
  const last = steps[steps.length - 1];
  const [r, g, b] = last ? last.rgb.map((v) => srgbToLinear(v / 255)) : [0, 0, 0];
  const luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const own = scene.set;
  const inside = rx >= 0 && ry >= 0 && rx < own.width && ry < own.height;
  const at = (ry >> 1) * ((own.width + 1) >> 1) + (rx >> 1);
  const most = steps.reduce((best, s, i) => (s.moved > (steps[best]?.moved ?? 0) ? i : best), 0);
  return {
    rgb: [shown[0], shown[1], shown[2]],
    ...(luminance > 0 ? { zone: Math.log2(luminance / 0.18) } : {}),
    shares:
      merge && inside && base
        ? merge.frames
            .map((frame, f) => ({ frame, share: merge.shares[f][at] / 255 }))
            .sort((p, q) => q.share - p.share)
        : [],
    steps,
    ...(steps[most] && steps[most].moved >= VISIBLE ? { most } : {}),
  };
}

/** The shown codes of one pixel; of a hatched view those of the picture. */
function renderOne(scene: ViewScene, view: View, area: Rectangle): ArrayLike<number> {
  const { picture } = scene;
  const node =
    picture &&
    (view.kind === 'result' || (view.kind === 'mask' && !view.late)
      ? picture.result
      : view.kind === 'finished' || view.kind === 'proof' || view.kind === 'mask'
        ? picture.finished
        : view.kind === 'node' || view.kind === 'edges'
          ? view.node
          : undefined);
  if (!picture || node === undefined) return renderView(scene, view, 0, area, 'lanczos');
  const planes = drawPlace(picture, node, { level: 0, area, kernel: 'lanczos' }, plainWorld(picture.made));
  return Uint8ClampedArray.from(planes, (p) => 255 * p[0]);
}

function tracedSteps(
  { set, picture }: ViewScene,
  spine: readonly SpineStep[],
  straight: boolean,
  px: number,
  py: number,
  rx: number,
  ry: number,
): Traced[] {
  const steps: Traced[] = [];
  const add = (step: Omit<Traced, 'rgb' | 'moved'>, planes: readonly Float32Array[]): void => {
    const rgb: Rgb = [planes[0][0] * 255, planes[1][0] * 255, planes[2][0] * 255];
    const before = steps[steps.length - 1];
    const lab = (v: Rgb) =>
      labOf(srgbToLinear(v[0] / 255), srgbToLinear(v[1] / 255), srgbToLinear(v[2] / 255));
    steps.push({ ...step, rgb, moved: before ? deltaE2000(lab(before.rgb), lab(rgb)) : 0 });
  };
  const at = { x: rx, y: ry, width: 1, height: 1 };
  const reference = set.frames.find((f) => f.stops === 0 && f.matrix?.every((v, i) => v === IDENTITY[i]));
  if (reference) {
    const { image, map } = pictureAtHand(reference.levels, 0);
    add({ of: 'frame', id: reference.id }, warpImage(image, map, at, 'bilinear'));
  }
  if (!picture) return steps;
  const world = plainWorld(picture.made);
  for (const { of, id, at: where, node, late } of spine) {
    // what is done on the straightened grid is read where it is looked at
    if (late && !straight) continue;
    const area = late ? { x: px, y: py, width: 1, height: 1 } : at;
    const planes = drawPlace(picture, node, { level: 0, area, kernel: 'lanczos' }, world);
    add({ of, id, ...(where === undefined ? {} : { at: where }) }, planes);
  }
  return steps;
}
