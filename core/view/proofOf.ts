import { BAND_PATCH, bandStep } from '../proof/measure/banding';
import { smoothPatches } from '../proof/measure/smoothPatches';
import { type Finding, judge } from '../proof/finding';
import { enlarged } from '../proof/measure/edgeProfiles';
import { spillOf } from '../proof/measure/spill';
import { proofFindings } from '../proof/proofFindings';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { drawMask, drawPicture, drawPlace } from './drawPicture';
import { plainWorld } from './followGraph';
import { type PictureScene } from './viewScene';

/** A layer that a brush lets through: what is beneath it, what it looks like where it is shown in full, and where it is shown. */
export interface PaintedLayer {
  readonly beneath: string;
  readonly everywhere: string;
  readonly mask: string;
}

/** What a proof looks at. */
export interface ProofScene {
  readonly picture: PictureScene;
  /** of the picture */
  readonly width: number;
  readonly height: number;
  readonly painted: readonly PaintedLayer[];
}

const PATCHES = 10;

/** The proof of the finished picture: its small version for areas, and its smoothest places at full size for steps of tone. */
export function proofOf(
  scene: ProofScene,
  image: EncodedImage,
  crop: Rectangle,
  print?: Rectangle,
): Finding[] {
  const { picture } = scene;
  const cell = crop.width / image.width;
  const world = plainWorld(picture.made);
  const bands = smoothPatches(image, PATCHES).map(({ x, y }) => {
    const where = {
      x: Math.round(crop.x + x * cell - BAND_PATCH / 2),
      y: Math.round(crop.y + y * cell - BAND_PATCH / 2),
      width: BAND_PATCH,
      height: BAND_PATCH,
    };
    const [R, G, B] = drawPlace(
      picture,
      picture.finished,
      { level: 0, area: where, kernel: 'lanczos' },
      world,
    );
    const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
    return { step: bandStep(luma, BAND_PATCH), where };
  });
  return [...proofFindings(image, crop, print, bands), ...spillFindings(scene)];
}

const SPILL_EDGE = 800;

/** The worst spill of the painted layers, at a reduced size. */
function spillFindings({ picture, width, height, painted }: ProofScene): Finding[] {
  const level = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / SPILL_EDGE)));
  const area = { x: 0, y: 0, width: width >> level, height: height >> level };
  const world = plainWorld(picture.made);
  const spills = painted.map(({ beneath, everywhere, mask }) => {
    const [a, b] = [beneath, everywhere].map((node) =>
      drawPicture(picture, node, level, area, 'bilinear', world),
    );
    return spillOf(a, b, drawMask(picture, mask, level, area, 'bilinear', world), area.width);
  });
  if (spills.length === 0) return [];
  const worst = spills.reduce((a, b) => (b.value > a.value ? b : a));
  return [judge('layers.spill', worst.value, enlarged(worst.where, 2 ** level))];
}
