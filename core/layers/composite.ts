import { type Adjust } from '../match/adjust';
import { adjustPlanes } from '../match/adjustPlanes';
import { evaluateMask } from '../mask/evaluateMask';
import { type Mask, type ToneSource } from '../mask/mask';
import { encodedGain } from '../raster/encodedGain';
import { alphaImage, type EncodedImage } from '../raster/encodedImage';
import { IDENTITY, invert, levelToFull, type Matrix3, multiply, toLevel } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { coverage, type Kernel, warpImage } from '../raster/warp';
import {
  type BlendMode,
  isSeparable,
  NON_SEPARABLE,
  type NonSeparableMode,
  type Rgb,
  SEPARABLE,
  type SeparableMode,
} from './blendMode';

/** A layer with its pixels at hand. */
export interface PlacedLayer {
  /** levels of the source, full size first */
  readonly levels: readonly EncodedImage[];
  /** reference pixel → source pixel, full size */
  readonly matrix: Matrix3;
  readonly opacity: number;
  readonly blend: BlendMode;
  readonly stops: number;
  readonly mask: Mask;
  /** changes of tone and colour, in order */
  readonly adjusts: readonly Adjust[];
}

/**
 * Composites layers, bottom first, over black on a rectangle of the reference's grid at a level, by simple alpha compositing and
 * the blend modes of W3C Compositing and Blending Level 1, in sRGB-encoded values.
 * A layer's alpha is opacity × mask × whether its source covers the pixel.
 * @param longEdge of the reference at full size
 * @param tones of the merged picture, for masks that keep to tones or follow edges
 * @returns three planes, 0…1
 */
export function composite(
  layers: readonly PlacedLayer[],
  longEdge: number,
  level: number,
  area: Rectangle,
  kernel: Kernel,
  tones?: ToneSource,
): Float32Array[] {
  const n = area.width * area.height;
  const out = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  const backdropAlpha = new Float32Array(n);
  const first = layers[0];
  const whole = first && wholePicture(first, level, area, kernel);
  if (whole) {
    out.forEach((plane, c) => plane.set(whole[c]));
    backdropAlpha.fill(1);
  }
  for (const layer of whole ? layers.slice(1) : layers) {
    if (layer.opacity <= 0) continue;
    const mask = evaluateMask(layer.mask, { longEdge, level, ...area }, tones);
    if (mask.every((v) => v === 0)) continue;
    const { image, matrix } = sourceAt(layer, level);
    const planes = warpImage(image, matrix, area, kernel);
    layer.adjusts.forEach((adjust) => adjustPlanes(planes, adjust));
    const inside = opacityIn(image, matrix, area, kernel);
    const brighten = encodedGain(layer.stops);
    for (let i = 0; i < n; i++) mask[i] *= layer.opacity * inside[i];
    if (isSeparable(layer.blend)) blendChannels(out, backdropAlpha, planes, mask, layer.blend, brighten);
    else blendColours(out, backdropAlpha, planes, mask, layer.blend, brighten);
    for (let i = 0; i < n; i++) backdropAlpha[i] += mask[i] * (1 - backdropAlpha[i]);
  }
  return out;
}

/** The level of a layer's source whose pixels are nearest to the picture's from below, and the map onto it. */
export function sourceAt(
  { levels, matrix }: Pick<PlacedLayer, 'levels' | 'matrix'>,
  level: number,
): { image: EncodedImage; matrix: Matrix3 } {
  // a source that is shown much smaller than it is must not be sampled between its pixels
  const smaller = Math.max(0, Math.floor(Math.log2(Math.hypot(matrix[0], matrix[3]) * 1.0001)));
  const own = Math.min(level + smaller, levels.length - 1);
  const image = levels[own];
  if (smaller === 0) return { image, matrix: toLevel(matrix, level) };
  return { image, matrix: multiply(invert(levelToFull(own)), multiply(matrix, levelToFull(level))) };
}

/** How much of a source is there on a rectangle: its borders, and the opacity of a cut-out. */
export function opacityIn(
  image: EncodedImage,
  matrix: Matrix3,
  area: Rectangle,
  kernel: Kernel,
): Float32Array {
  const inside = coverage(image, matrix, area, 0);
  const opacity = alphaImage(image);
  if (!opacity) return inside;
  const [alpha] = warpImage(opacity, matrix, area, kernel);
  return inside.map((v, i) => v * Math.max(0, Math.min(1, alpha[i])));
}

/** The bottom layer where it is simply the picture: shown everywhere, unmoved, unblended. Most pictures begin with one. */
function wholePicture(
  { levels, matrix, opacity, blend, stops, mask, adjusts }: PlacedLayer,
  level: number,
  area: Rectangle,
  kernel: Kernel,
): Float32Array[] | undefined {
  const image = levels[Math.min(level, levels.length - 1)];
  const plain = !image.alpha && opacity === 1 && blend === 'normal' && stops === 0 && isShownWhole(mask);
  const inside =
    area.x >= 0 && area.y >= 0 && area.x + area.width <= image.width && area.y + area.height <= image.height;
  if (!plain || !inside || !matrix.every((v, i) => v === IDENTITY[i])) return undefined;
  const planes = warpImage(image, IDENTITY, area, kernel);
  adjusts.forEach((adjust) => adjustPlanes(planes, adjust));
  for (const plane of planes)
    for (let i = 0; i < plane.length; i++) {
      const v = plane[i];
      if (v < 0) plane[i] = 0;
      else if (v > 1) plane[i] = 1;
    }
  return planes;
}

const isShownWhole = ({ base, strokes, range, inverted }: Mask): boolean =>
  base === 'shown' && strokes.length === 0 && !range && !inverted;

/** co = αs · [(1 − αb) · Cs + αb · B(Cb, Cs)] + (1 − αs) · αb · Cb (section 5.1); `out` is premultiplied by the backdrop's alpha. */
function blendChannels(
  out: readonly Float32Array[],
  backdropAlpha: Float32Array,
  planes: readonly Float32Array[],
  alpha: Float32Array,
  mode: SeparableMode,
  brighten: (v: number) => number,
): void {
  const blend = SEPARABLE[mode];
  for (let c = 0; c < 3; c++) {
    const source = planes[c];
    const sum = out[c];
    for (let i = 0; i < alpha.length; i++) {
      const a = alpha[i];
      if (a === 0) continue;
      const s = brighten(source[i]);
      const ab = backdropAlpha[i];
      const backdrop = ab > 0 ? sum[i] / ab : 0;
      sum[i] = a * ((1 - ab) * s + ab * blend(backdrop, s)) + (1 - a) * sum[i];
    }
  }
}

function blendColours(
  out: readonly Float32Array[],
  backdropAlpha: Float32Array,
  planes: readonly Float32Array[],
  alpha: Float32Array,
  mode: NonSeparableMode,
  brighten: (v: number) => number,
): void {
  const blend = NON_SEPARABLE[mode];
  for (let i = 0; i < alpha.length; i++) {
    const a = alpha[i];
    if (a === 0) continue;
    const ab = backdropAlpha[i];
    const source: Rgb = [brighten(planes[0][i]), brighten(planes[1][i]), brighten(planes[2][i])];
    const backdrop: Rgb = ab > 0 ? [out[0][i] / ab, out[1][i] / ab, out[2][i] / ab] : [0, 0, 0];
    const mixed = blend(backdrop, source);
    for (let c = 0; c < 3; c++) out[c][i] = a * ((1 - ab) * source[c] + ab * mixed[c]) + (1 - a) * out[c][i];
  }
}
