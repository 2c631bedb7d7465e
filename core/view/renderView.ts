import { DARK_SHARE, LIGHT_SHARE } from '../capture/clippedShares';
import { edgeMask } from '../finish/sharpen';
import { evaluateMask } from '../mask/evaluateMask';
import { encodedGain } from '../raster/encodedGain';
import { type EncodedImage } from '../raster/encodedImage';
import { IDENTITY, levelToFull, multiply, toLevel } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { coverage, type Kernel, warpImage } from '../raster/warp';
import { beforeScene } from './beforeScene';
import {
  cut,
  finishedPlanes,
  grown,
  resultPlanes,
  straightened,
  tonesOf,
  unfinished,
  unmatched,
} from './finishedPlanes';
import { FRAME_COLOURS } from './frameColours';
import { hatch } from './hatch';
import { type KeptPlanes, NOTHING_KEPT } from './keptPlanes';
import { opaqueBytes, shownBytes } from './shownBytes';
import { turnedReference } from './turnedReference';
import { turnedResidual } from './turnedResidual';
import { type SceneFrame, type SceneMerge, type TurnedSet, type View, type ViewScene } from './viewScene';

/** Grey of places that a view has nothing to show for. */
const NOTHING = 0.46;

/**
 * Renders one view on a rectangle of the level's grid.
 * @param level halvings from full size
 * @param area in pixels of that level
 * @param kept planes of earlier renderings, for a scene that says which pixels it has
 * @returns R G B A, `area.width * area.height * 4` bytes, opaque
 */
export function renderView(
  scene: ViewScene,
  view: View,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes = NOTHING_KEPT,
): Uint8ClampedArray<ArrayBuffer> {
  switch (view.kind) {
    case 'result':
      return shownBytes(unmatched(scene, level, area, kernel, kept), area);
    case 'finished':
      return shownBytes(unfinished(scene, level, area, kernel, kept), area);
    case 'merge':
      return mergeView(view.rival ? scene.rival : scene.merge, level, area);
    case 'before':
      return beforeView(scene, view, level, area, kernel);
    case 'edges':
      return edgesView(scene, level, area, kernel);
    case 'proof':
      return proofView(scene, level, area, kernel, kept);
    case 'mask':
      return maskView(scene, view.layer, level, area, kernel);
    case 'shot':
      return shotView(scene, view.frame, view.clipping, level, area);
    case 'fitted':
      return fittedView(scene, view.frame, level, area, kernel);
    case 'residual':
      return scene.turned
        ? turnedResidualView(scene.turned, view.gain, level, area)
        : residualView(scene, view.frame, view.gain, level, area);
    case 'origin':
      return originView(scene, level, area);
    case 'depth':
      return depthView(scene, level, area);
  }
}

function mergeView(
  merge: SceneMerge | undefined,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  if (!merge) return empty(area);
  const image = merge.levels[Math.min(level, merge.levels.length - 1)];
  return opaqueBytes(warpImage(image, IDENTITY, area, 'bilinear'));
}

/** What the picture was before a step. */
function beforeView(
  scene: ViewScene,
  { step, finished }: Extract<View, { kind: 'before' }>,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  if (step !== 'fit') {
    const before = beforeScene(scene, step, finished);
    return opaqueBytes(
      finished ? finishedPlanes(before, level, area, kernel) : resultPlanes(before, level, area, kernel),
    );
  }
  if (scene.turned) {
    const { turned } = scene;
    const draw = (from: Rectangle): Float32Array[] => turnedReference(turned, level, from);
    return opaqueBytes(finished ? straightened(scene, level, area, kernel, draw) : draw(area));
  }
  const reference = scene.frames.find((f) => f.stops === 0 && f.matrix?.every((v, i) => v === IDENTITY[i]));
  if (!reference) return empty(area);
  const map = finished ? toLevel(scene.finish.straighten, level) : IDENTITY;
  return opaqueBytes(warpImage(levelOf(reference, level), map, area, kernel));
}

/** The finished picture, hatched where sharpening is kept out. */
function edgesView(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  const { sharpen } = scene.finish;
  const radius = Math.max(0.4, sharpen.radius / 2 ** level);
  const wide = grown(area, Math.ceil(8 * radius));
  const planes = finishedPlanes(
    { ...scene, finish: { ...scene.finish, sharpen: { ...sharpen, amount: 0 } } },
    level,
    wide,
    kernel,
  );
  const luma = planes[0].map((r, i) => 0.2126 * r + 0.7152 * planes[1][i] + 0.0722 * planes[2][i]);
  const mask = edgeMask(luma, wide.width, wide.height, { ...sharpen, radius });
  const kept = cut(mask, wide, area).map((m) => 1 - m);
  const rgba = opaqueBytes(planes.map((p) => cut(p, wide, area)));
  hatch(rgba, area.width, kept, true, area.x, area.y);
  return rgba;
}

/** The finished picture, hatched one way where a channel is full and the other way where all are empty. */
function proofView(
  scene: ViewScene,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  kept: KeptPlanes,
): Uint8ClampedArray<ArrayBuffer> {
  const planes = finishedPlanes(scene, level, area, kernel, kept);
  const rgba = opaqueBytes(planes);
  hatchClipped(rgba, planes, area);
  return rgba;
}

function hatchClipped(rgba: Uint8ClampedArray, [R, G, B]: readonly Float32Array[], area: Rectangle): void {
  const light = R.map((r, i) => (Math.max(r, G[i], B[i]) >= LIGHT_SHARE ? 1 : 0));
  const dark = R.map((r, i) => (Math.max(r, G[i], B[i]) <= DARK_SHARE ? 1 : 0));
  hatch(rgba, area.width, light, true, area.x, area.y);
  hatch(rgba, area.width, dark, false, area.x, area.y);
}

function maskView(
  scene: ViewScene,
  id: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  const rgba = opaqueBytes(resultPlanes(scene, level, area, kernel));
  const layer = scene.layers.find((l) => l.id === id);
  if (layer) {
    const grid = { longEdge: Math.max(scene.width, scene.height), level, ...area };
    const mask = evaluateMask(layer.mask, grid, tonesOf(scene.merge));
    hatch(rgba, area.width, mask, true, area.x, area.y);
  }
  return rgba;
}

function frameOf(scene: ViewScene, id: string): SceneFrame | undefined {
  return scene.frames.find((f) => f.id === id);
}

const levelOf = (frame: SceneFrame, level: number): EncodedImage =>
  frame.levels[Math.min(level, frame.levels.length - 1)];

function empty(area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const n = area.width * area.height;
  return opaqueBytes([0, 1, 2].map(() => new Float32Array(n).fill(NOTHING)));
}

function shotView(
  scene: ViewScene,
  id: string,
  clipping: boolean,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(scene, id);
  if (!frame) return empty(area);
  const planes = warpImage(levelOf(frame, level), IDENTITY, area, 'bilinear');
  const rgba = opaqueBytes(planes);
  if (clipping) hatchClipped(rgba, planes, area);
  return rgba;
}

/** A frame's planes on the reference's grid in the reference's exposure, with where it covers. */
function matchedPlanes(
  frame: SceneFrame,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): { planes: Float32Array[]; inside: Float32Array; raw: Float32Array[] } | undefined {
  if (!frame.matrix) return undefined;
  const image = levelOf(frame, level);
  const matrix = toLevel(frame.matrix, level);
  const raw = warpImage(image, matrix, area, kernel);
  const match = encodedGain(-frame.stops);
  const planes = frame.stops === 0 ? raw : raw.map((p) => p.map(match));
  return { planes, raw, inside: coverage(image, matrix, area, 0) };
}

function fittedView(
  scene: ViewScene,
  id: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(scene, id);
  const matched = frame && matchedPlanes(frame, level, area, kernel);
  if (!matched) return empty(area);
  for (const plane of matched.planes)
    for (let i = 0; i < plane.length; i++) if (matched.inside[i] === 0) plane[i] = NOTHING;
  return opaqueBytes(matched.planes);
}

/**
 * Frame minus reference, signed, in sRGB-encoded green at the exposure of the darker of the two: mid grey where they agree, lighter
 * where the frame is lighter. Hatched where either holds nothing to compare.
 */
function residualView(
  scene: ViewScene,
  id: string,
  gain: number,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(scene, id);
  const reference = scene.frames.find((f) => f.stops === 0 && f.matrix?.every((v, i) => v === IDENTITY[i]));
  const a = frame && matchedPlanes(frame, level, area, 'lanczos');
  const b = reference && matchedPlanes(reference, level, area, 'lanczos');
  if (!frame || !a || !b) return empty(area);
  const n = area.width * area.height;
  const grey = new Float32Array(n);
  const silent = new Float32Array(n);
  const high = 0.96;
  const low = 0.03;
  // the lighter frame's noise is lower: compare on its scale when the frame is the lighter one
  const lift = encodedGain(Math.max(-2, Math.min(2, frame.stops / 2)));
  for (let i = 0; i < n; i++) {
    const fr = Math.max(a.raw[0][i], a.raw[1][i], a.raw[2][i]);
    const rr = Math.max(b.raw[0][i], b.raw[1][i], b.raw[2][i]);
    if (a.inside[i] === 0 || fr > high || rr > high || fr < low || rr < low) {
      silent[i] = 0.5;
      grey[i] = 0.5;
      continue;
    }
    grey[i] = 0.5 + gain * (lift(a.planes[1][i]) - lift(b.planes[1][i]));
  }
  const rgba = opaqueBytes([grey, grey, grey]);
  hatch(rgba, area.width, silent, false, area.x, area.y);
  return rgba;
}

/** The same for a panorama: everywhere the two frames that hold most of a place. */
function turnedResidualView(
  turned: TurnedSet,
  gain: number,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const { difference, compared } = turnedResidual(turned, level, area);
  const grey = difference.map((d) => 0.5 + gain * d);
  const rgba = opaqueBytes([grey, grey, grey]);
  hatch(
    rgba,
    area.width,
    Float32Array.from(compared, (c) => (c ? 0 : 0.5)),
    false,
    area.x,
    area.y,
  );
  return rgba;
}

/** Places along a focus set as greys: the first frame light, the last dark. */
function depthView(scene: ViewScene, level: number, area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const { merge } = scene;
  if (!merge?.depth) return empty(area);
  const { depth } = merge;
  const last = Math.max(1, merge.frames.length - 1);
  const [w, h] = [Math.ceil(scene.width / 2), Math.ceil(scene.height / 2)];
  const scale = 2 ** level / 2;
  const grey = new Float32Array(area.width * area.height);
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = Math.min(h - 1, Math.max(0, Math.floor((y + area.y + 0.5) * scale))) * w;
    for (let x = 0; x < area.width; x++, i++) {
      const u = Math.min(w - 1, Math.max(0, Math.floor((x + area.x + 0.5) * scale)));
      grey[i] = 0.94 - (0.84 * depth[v + u]) / last;
    }
  }
  return opaqueBytes([grey, grey, grey]);
}

/** The merged picture's grey tinted by the frames that made each pixel, in the colours of {@link FRAME_COLOURS}. */
function originView(scene: ViewScene, level: number, area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const { merge } = scene;
  if (!merge) return empty(area);
  const picture = warpImage(
    merge.levels[Math.min(level, merge.levels.length - 1)],
    IDENTITY,
    area,
    'bilinear',
  );
  const halfWidth = (scene.width + 1) >> 1;
  const halfHeight = (scene.height + 1) >> 1;
  // level pixel → pixel of the shares, whose pixel k lies on full pixel 2k
  const toShares = multiply([0.5, 0, 0, 0, 0.5, 0, 0, 0, 1], levelToFull(level));
  const order = merge.frames;
  const rgba = new Uint8ClampedArray(area.width * area.height * 4);
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = Math.min(halfHeight - 1, Math.max(0, Math.round(toShares[4] * (y + area.y) + toShares[5])));
    for (let x = 0; x < area.width; x++, i++) {
      const u = Math.min(halfWidth - 1, Math.max(0, Math.round(toShares[0] * (x + area.x) + toShares[2])));
      const at = v * halfWidth + u;
      let r = 0;
      let g = 0;
      let b = 0;
      order.forEach((_, f) => {
        const colour = FRAME_COLOURS[f % FRAME_COLOURS.length];
        const share = merge.shares[f][at] / 255;
        r += share * colour[0];
        g += share * colour[1];
        b += share * colour[2];
      });
      const grey = 0.55 + 0.6 * (0.3 * picture[0][i] + 0.6 * picture[1][i] + 0.1 * picture[2][i]);
      rgba[i * 4] = r * grey;
      rgba[i * 4 + 1] = g * grey;
      rgba[i * 4 + 2] = b * grey;
      rgba[i * 4 + 3] = 255;
    }
  }
  return rgba;
}
