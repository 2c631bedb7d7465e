import { coarseCut } from '../../cutout/coarseCut';
import { labGrid, reducedLight } from '../../cutout/lightGrid';
import { type LabGrid } from '../../cutout/linkCost';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { srgbToLinear } from '../../raster/srgb';
import { type GridFrame } from '../frameOnGrid';

const [ROUNDS, SMOOTHNESS] = [3, 3];
/** cells whose side is cut at half size: the seam is sought about the edge anyway */
const MOST = 35_000;

/**
 * What a dab lies on by its colours, as the sky, the water or a lit window: the least cut of {@link coarseCut}. What other dabs point at is not part of it, nor
 * is the border of the picture as long as there are none.
 * @param named [cell] index of the frame that was pointed out there, −1 for none
 * @param frame index of the frame whose dabs are meant
 * @returns [cell] 1 on it
 */
export function segmentCells(
  { planes }: GridFrame,
  named: Int16Array,
  frame: number,
  { width: w, height: h }: ReducedGrid,
): Uint8Array {
  const factor = Math.max(1, Math.round(Math.sqrt((w * h) / MOST)));
  const light = { width: w, height: h, data: new Float32Array(3 * w * h) };
  planes.forEach((p, c) =>
    p.forEach((v, i) => (light.data[3 * i + c] = srgbToLinear(Math.min(1, Math.max(0, v))))),
  );
  const lab = labGrid(reducedLight(light, factor));
  const few = fewerNames(named, w, h, factor);
  const label = cutSegment(lab, few, frame);
  return Uint8Array.from(named, (_, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    return label[Math.floor(y / factor) * lab.width + Math.floor(x / factor)];
  });
}

/** Names on larger cells: one that is there counts. */
function fewerNames(named: Int16Array, w: number, h: number, factor: number): Int16Array {
  const across = Math.ceil(w / factor);
  const few = new Int16Array(across * Math.ceil(h / factor)).fill(-1);
  named.forEach((f, i) => {
    if (f >= 0) few[Math.floor(Math.floor(i / w) / factor) * across + Math.floor((i % w) / factor)] = f;
  });
  return few;
}

function cutSegment(lab: LabGrid, named: Int16Array, frame: number): Uint8Array {
  const { width: w, height: h } = lab;
  const isAlone = named.every((f) => f < 0 || f === frame);
  const isRim = (i: number): boolean => i < w || i >= w * (h - 1) || i % w === 0 || i % w === w - 1;
  const seeds = Int8Array.from(named, (f, i) => (f === frame ? 1 : f >= 0 || (isAlone && isRim(i)) ? 0 : -1));
  const { label } = coarseCut(lab, seeds, { rounds: ROUNDS, smoothness: SMOOTHNESS });
  if (!isAlone) return label;
  // the rim only stood for what lies elsewhere: it belongs to what is beside it
  return label.map((l, i) => {
    if (!isRim(i)) return l;
    const [x, y] = [i % w, Math.floor(i / w)];
    return label[Math.min(h - 2, Math.max(1, y)) * w + Math.min(w - 2, Math.max(1, x))];
  });
}
