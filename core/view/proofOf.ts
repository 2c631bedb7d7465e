import { BAND_PATCH, bandStep } from '../proof/measure/banding';
import { smoothPatches } from '../proof/measure/smoothPatches';
import { evaluateMask } from '../mask/evaluateMask';
import { type Finding, judge } from '../proof/finding';
import { enlarged } from '../proof/measure/edgeProfiles';
import { spillOf } from '../proof/measure/spill';
import { proofFindings } from '../proof/proofFindings';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { finishedPlanes, resultPlanes, tonesOf } from './finishedPlanes';
import { type ViewScene } from './viewScene';

const PATCHES = 10;

/** The proof of the finished picture: its small version for areas, and its smoothest places at full size for steps of tone. */
export function proofOf(
  scene: ViewScene,
  picture: EncodedImage,
  crop: Rectangle,
  print?: Rectangle,
): Finding[] {
  const cell = crop.width / picture.width;
  const bands = smoothPatches(picture, PATCHES).map(({ x, y }) => {
    const where = {
      x: Math.round(crop.x + x * cell - BAND_PATCH / 2),
      y: Math.round(crop.y + y * cell - BAND_PATCH / 2),
      width: BAND_PATCH,
      height: BAND_PATCH,
    };
    const [R, G, B] = finishedPlanes(scene, 0, where, 'lanczos');
    const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
    return { step: bandStep(luma, BAND_PATCH), where };
  });
  return [...proofFindings(picture, crop, print, bands), ...spillFindings(scene)];
}

const SPILL_EDGE = 800;

/** The worst spill of the painted layers, at a reduced size. */
function spillFindings(scene: ViewScene): Finding[] {
  const level = Math.max(0, Math.ceil(Math.log2(Math.max(scene.width, scene.height) / SPILL_EDGE)));
  const area = { x: 0, y: 0, width: scene.width >> level, height: scene.height >> level };
  const longEdge = Math.max(scene.width, scene.height);
  const found = scene.layers.flatMap((layer, i) => {
    if (layer.source === 'merge' || layer.mask.strokes.length === 0) return [];
    const below = { ...scene, layers: scene.layers.slice(0, i) };
    const { range: _, ...plain } = layer.mask;
    const open = { ...plain, base: 'shown' as const, strokes: [], inverted: false, feather: 0, follow: 0 };
    const shown = { ...scene, layers: [...below.layers, { ...layer, mask: open }] };
    const mask = evaluateMask(layer.mask, { longEdge, level, ...area }, tonesOf(scene.merge));
    const [a, b] = [below, shown].map((s) => resultPlanes(s, level, area, 'bilinear'));
    return [spillOf(a, b, mask, area.width)];
  });
  if (found.length === 0) return [];
  const worst = found.reduce((a, b) => (b.value > a.value ? b : a));
  return [judge('layers.spill', worst.value, enlarged(worst.where, 2 ** level))];
}
