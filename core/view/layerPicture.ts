import { opacityIn } from '../layers/composite';
import { evaluateMask } from '../mask/evaluateMask';
import { IDENTITY, multiply, toLevel } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { coverage, warpImage } from '../raster/warp';
import { finishedPlanes, tonesOf } from './finishedPlanes';
import { type ViewScene } from './viewScene';

/**
 * One layer by itself as a layered file holds it: its colour with every adjustment of the picture, its mask and coverage as alpha.
 * @param area of the straightened picture at full size
 * @returns R G B A, 8 bit, straight alpha
 */
export function layerPicture(scene: ViewScene, id: string, area: Rectangle): Uint8Array {
  const n = area.width * area.height;
  const out = new Uint8Array(n * 4);
  const layer = scene.layers.find((l) => l.id === id);
  if (!layer) return out;
  const { mask } = layer;
  const whole = { ...mask, base: 'shown' as const, strokes: [], inverted: false, feather: 0, follow: 0 };
  const { range: _, ...open } = whole;
  const alone = { ...scene, layers: [{ ...layer, opacity: 1, blend: 'normal' as const, mask: open }] };
  const planes = finishedPlanes(alone, 0, area, 'lanczos');
  const alpha = alphaOf(scene, id, area);
  for (let i = 0, o = 0; i < n; i++, o += 4) {
    for (let c = 0; c < 3; c++) out[o + c] = Math.min(255, Math.max(0, planes[c][i] * 255 + 0.5));
    out[o + 3] = alpha[i] * 255 + 0.5;
  }
  return out;
}

function alphaOf(scene: ViewScene, id: string, area: Rectangle): Float32Array {
  const layer = scene.layers.find((l) => l.id === id);
  if (!layer) return new Float32Array(area.width * area.height);
  const straight = scene.finish.straighten.every((v, i) => v === IDENTITY[i]);
  const longEdge = Math.max(scene.width, scene.height);
  const grid = straight ? area : { x: 0, y: 0, width: scene.width, height: scene.height };
  const mask = evaluateMask(layer.mask, { longEdge, level: 0, ...grid }, tonesOf(scene.merge));
  const map = straight ? IDENTITY : toLevel(scene.finish.straighten, 0);
  const frame = scene.frames.find((f) => f.id === layer.source);
  const inside = frame?.matrix
    ? opacityIn(frame.levels[0], multiply(frame.matrix, map), area, 'bilinear')
    : coverage(scene, map, area, 0);
  if (straight) return mask.map((m, i) => m * inside[i]);
  const data = new Float32Array(mask.length * 3);
  mask.forEach((m, i) => data.fill(m, i * 3, i * 3 + 3));
  const [warped] = warpImage({ ...grid, white: 1, data }, map, area, 'bilinear');
  return warped.map((m, i) => Math.min(1, Math.max(0, m * inside[i])));
}
