import { DARK_SHARE, LIGHT_SHARE } from '../capture/clippedShares';
import { deltaE2000, labOf } from '../colour/deltaE';
import { edgeMask } from '../finish/sharpen';
import { type World } from '../graph/evaluate';
import { pictureAtHand } from '../raster/awayPixels';
import { encodedGain } from '../raster/encodedGain';
import {
  IDENTITY,
  levelToFull,
  type Matrix3,
  multiply,
  toLevel,
  transform,
  translation,
} from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { srgbToLinear } from '../raster/srgb';
import { coverage, type Kernel, warpImage } from '../raster/warp';
import { cutPlane } from '../graph/resample';
import { drawMask, drawPicture, opaqueBytes } from './drawPicture';
import { plainWorld } from './followGraph';
import { FRAME_COLOURS } from './frameColours';
import { hatch } from './hatch';
import { maskMargin, showMask } from './showMask';
import { turnedReference } from './turnedReference';
import { turnedResidual } from './turnedResidual';
import {
  type PictureScene,
  type SceneFrame,
  type SetScene,
  type TurnedSet,
  type View,
  type ViewScene,
} from './viewScene';

/** CIEDE2000 that the view of differences shows as white. */
export const MOST_DIFFERENCE = 20;

/** Grey of places that a view has nothing to show for. */
const NOTHING = 0.46;

/** The node of light that a view shows; undefined for one that shows no picture. */
export function nodeOfView(picture: PictureScene, view: View): string | undefined {
  switch (view.kind) {
    case 'result':
      return picture.result;
    case 'finished':
    case 'proof':
      return picture.finished;
    case 'node':
    case 'edges':
    case 'difference':
      return view.node;
    case 'mask':
      return view.late ? picture.finished : picture.result;
    default:
      return undefined;
  }
}

/** Every node that a view is made from. */
export function nodesOfView(picture: PictureScene, view: View): string[] {
  const node = nodeOfView(picture, view);
  if (node === undefined) return [];
  if (view.kind === 'mask') return [node, view.mask];
  return view.kind === 'difference' && 'node' in view.to ? [node, view.to.node] : [node];
}

/**
 * Renders one view on a rectangle of the level's grid.
 * @param level halvings from full size
 * @param area in pixels of that level
 * @param world what the picture is evaluated with; nothing is kept when left out
 * @returns R G B A, `area.width * area.height * 4` bytes, opaque
 */
export function renderView(
  scene: ViewScene,
  view: View,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  world: World = plainWorld(scene.picture?.made ?? new Map()),
): Uint8ClampedArray<ArrayBuffer> {
  const { picture: drawn, set } = scene;
  const node = drawn && nodeOfView(drawn, view);
  if (drawn && node !== undefined) {
    const picture: PictureScene = drawn;
    const planesOf = (shown: string, of: Rectangle): readonly Float32Array[] =>
      drawPicture(picture, shown, level, of, kernel, world);
    const planes = (of: Rectangle): readonly Float32Array[] => planesOf(node, of);
    switch (view.kind) {
      case 'edges':
        return edgesView(planes, view, level, area);
      case 'proof':
        return clippedView(planes(area), area);
      case 'difference': {
        const { to } = view;
        const other =
          'node' in to ? { planes: planesOf(to.node, area) } : shotOnGrid(set, to.frame, level, area, kernel);
        return other ? differenceView(planes(area), other, area) : empty(area);
      }
      case 'mask': {
        const { form = 'hatched' } = view;
        const by = maskMargin(form);
        const wide = {
          ...{ x: area.x - by, y: area.y - by },
          ...{ width: area.width + 2 * by, height: area.height + 2 * by },
        };
        const rgba = opaqueBytes(planes(area));
        showMask(rgba, drawMask(picture, view.mask, level, wide, kernel, world), form, area);
        return rgba;
      }
      default:
        return opaqueBytes(planes(area));
    }
  }
  switch (view.kind) {
    case 'reference':
      return referenceView(scene, view.finished, level, area, kernel);
    case 'shot':
      return shotView(set, view.frame, view.clipping, level, area);
    case 'fitted':
      return fittedView(set, view.frame, level, area, kernel);
    case 'residual':
      return set.turned
        ? turnedResidualView(set.turned, view.gain, level, area)
        : residualView(set, view.frame, view.gain, level, area);
    case 'origin':
      return originView(set, level, area);
    case 'depth':
      return depthView(set, level, area);
    default:
      return empty(area);
  }
}

/** The reference as it was shot, where the picture has it. */
function referenceView(
  { set, picture, width, height }: ViewScene,
  finished: boolean,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  const straighten = finished ? (picture?.straighten ?? IDENTITY) : IDENTITY;
  const map = toLevel(straighten, level);
  if (!set.turned) {
    const reference = referenceFrame(set);
    if (!reference) return empty(area);
    const { image, map: own } = pictureAtHand(reference.levels, level);
    return opaqueBytes(warpImage(image, multiply(own, map), area, kernel));
  }
  const { turned } = set;
  const isStraight = straighten.every((v, i) => v === IDENTITY[i]);
  if (isStraight) return opaqueBytes(turnedReference(turned, level, area));
  const from = reachedBy(map, area, { width: width >> level, height: height >> level });
  if (!from) return empty(area);
  const planes = turnedReference(turned, level, from);
  const data = new Float32Array(from.width * from.height * 3);
  planes.forEach((p, c) => p.forEach((v, i) => (data[3 * i + c] = v)));
  const local = multiply(translation(-from.x, -from.y), map);
  return opaqueBytes(
    warpImage({ width: from.width, height: from.height, white: 1, data }, local, area, kernel),
  );
}

/** The part of a picture that an area shows through a map, with room for the kernel. */
function reachedBy(
  map: Matrix3,
  area: Rectangle,
  { width, height }: { readonly width: number; readonly height: number },
): Rectangle | undefined {
  const corners = [0, 1, 2, 3].map((k) =>
    transform(map, area.x + (k & 1) * (area.width - 1), area.y + (k >> 1) * (area.height - 1)),
  );
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  const [x0, y0] = [
    Math.max(0, Math.floor(Math.min(...xs)) - 4),
    Math.max(0, Math.floor(Math.min(...ys)) - 4),
  ];
  const x1 = Math.min(width, Math.ceil(Math.max(...xs)) + 5);
  const y1 = Math.min(height, Math.ceil(Math.max(...ys)) + 5);
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : undefined;
}

/** What is sharpened, hatched where sharpening is kept out. */
function edgesView(
  planesOn: (area: Rectangle) => readonly Float32Array[],
  { sharpen }: Extract<View, { kind: 'edges' }>,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const radius = Math.max(0.4, sharpen.radius / 2 ** level);
  const by = Math.ceil(8 * radius);
  const wide = { x: area.x - by, y: area.y - by, width: area.width + 2 * by, height: area.height + 2 * by };
  const planes = planesOn(wide);
  const luma = planes[0].map((r, i) => 0.2126 * r + 0.7152 * planes[1][i] + 0.0722 * planes[2][i]);
  const mask = edgeMask(luma, wide.width, wide.height, { ...sharpen, radius });
  const kept = cutPlane(mask, wide, area).map((m) => 1 - m);
  const rgba = opaqueBytes(planes.map((p) => cutPlane(p, wide, area)));
  hatch(rgba, area.width, kept, true, area.x, area.y);
  return rgba;
}

/** A picture hatched one way where a channel is full and the other way where all are empty. */
function clippedView(planes: readonly Float32Array[], area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
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

/** The frame that the others are fitted to: it lies on itself. */
function referenceFrame({ frames }: SetScene): SceneFrame | undefined {
  return frames.find((f) => f.stops === 0 && f.matrix?.every((v, i) => v === IDENTITY[i]));
}

function frameOf(set: SetScene, id: string): SceneFrame | undefined {
  return set.frames.find((f) => f.id === id);
}

function empty(area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const n = area.width * area.height;
  return opaqueBytes([0, 1, 2].map(() => new Float32Array(n).fill(NOTHING)));
}

function shotView(
  set: SetScene,
  id: string,
  clipping: boolean,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(set, id);
  if (!frame) return empty(area);
  const { image, map } = pictureAtHand(frame.levels, level);
  const planes = warpImage(image, map, area, 'bilinear');
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
  const { image, map } = pictureAtHand(frame.levels, level);
  const matrix = multiply(map, toLevel(frame.matrix, level));
  const raw = warpImage(image, matrix, area, kernel);
  const match = encodedGain(-frame.stops);
  const planes = frame.stops === 0 ? raw : raw.map((p) => p.map(match));
  return { planes, raw, inside: coverage(image, matrix, area, 0) };
}

function fittedView(
  set: SetScene,
  id: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(set, id);
  const matched = frame && matchedPlanes(frame, level, area, kernel);
  if (!matched) return empty(area);
  for (const plane of matched.planes)
    for (let i = 0; i < plane.length; i++) if (matched.inside[i] === 0) plane[i] = NOTHING;
  return opaqueBytes(matched.planes);
}

/** A frame as it was shot on the reference’s grid, and where it reaches; undefined for one that is not fitted. */
function shotOnGrid(
  set: SetScene,
  id: string,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): { readonly planes: readonly Float32Array[]; readonly inside: Float32Array } | undefined {
  const frame = frameOf(set, id);
  const matched = frame && matchedPlanes(frame, level, area, kernel);
  return matched && { planes: matched.raw, inside: matched.inside };
}

/** Two pictures pixel by pixel, CIEDE2000 up to {@link MOST_DIFFERENCE} from dark to light; hatched where the other one does not reach. */
function differenceView(
  own: readonly Float32Array[],
  { planes, inside }: { readonly planes: readonly Float32Array[]; readonly inside?: Float32Array },
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const labAt = (p: readonly Float32Array[], i: number) => {
    const [r, g, b] = p.map((plane) => srgbToLinear(Math.min(1, Math.max(0, plane[i]))));
    return labOf(r, g, b);
  };
  const grey = own[0].map((_, i) =>
    inside?.[i] === 0 ? NOTHING : Math.min(1, deltaE2000(labAt(own, i), labAt(planes, i)) / MOST_DIFFERENCE),
  );
  const rgba = opaqueBytes([grey, grey, grey]);
  if (inside)
    hatch(
      rgba,
      area.width,
      inside.map((v) => (v === 0 ? 0.5 : 0)),
      false,
      area.x,
      area.y,
    );
  return rgba;
}

/**
 * Frame minus reference, signed, in sRGB-encoded green at the exposure of the darker of the two: mid grey where they agree, lighter
 * where the frame is lighter. Hatched where either holds nothing to compare.
 */
function residualView(
  set: SetScene,
  id: string,
  gain: number,
  level: number,
  area: Rectangle,
): Uint8ClampedArray<ArrayBuffer> {
  const frame = frameOf(set, id);
  const reference = referenceFrame(set);
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
function depthView(set: SetScene, level: number, area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const { merge } = set;
  if (!merge?.depth) return empty(area);
  const { depth } = merge;
  const last = Math.max(1, merge.frames.length - 1);
  const [w, h] = [Math.ceil(set.width / 2), Math.ceil(set.height / 2)];
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
function originView(set: SetScene, level: number, area: Rectangle): Uint8ClampedArray<ArrayBuffer> {
  const { merge } = set;
  if (!merge) return empty(area);
  const picture = warpImage(
    merge.levels[Math.min(level, merge.levels.length - 1)],
    IDENTITY,
    area,
    'bilinear',
  );
  const halfWidth = (set.width + 1) >> 1;
  const halfHeight = (set.height + 1) >> 1;
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
