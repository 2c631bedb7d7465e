import { labOf } from '../../colour/deltaE';
import { coarseCut } from '../../cutout/coarseCut';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { srgbToLinear } from '../../raster/srgb';
import { type GridFrame } from '../frameOnGrid';

const [ROUNDS, SMOOTHNESS] = [3, 3];

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
  const data = new Float32Array(3 * w * h);
  for (let i = 0; i < w * h; i++) {
    const [r, g, b] = planes.map((p) => srgbToLinear(Math.min(1, Math.max(0, p[i]))));
    data.set(labOf(r, g, b), 3 * i);
  }
  const isAlone = named.every((f) => f < 0 || f === frame);
  const isRim = (i: number): boolean => i < w || i >= w * (h - 1) || i % w === 0 || i % w === w - 1;
  const seeds = Int8Array.from(named, (f, i) => (f === frame ? 1 : f >= 0 || (isAlone && isRim(i)) ? 0 : -1));
  const { label } = coarseCut({ width: w, height: h, data }, seeds, {
    rounds: ROUNDS,
    smoothness: SMOOTHNESS,
  });
  if (!isAlone) return label;
  // the rim only stood for what lies elsewhere: it belongs to what is beside it
  return label.map((l, i) => {
    if (!isRim(i)) return l;
    const [x, y] = [i % w, Math.floor(i / w)];
    return label[Math.min(h - 2, Math.max(1, y)) * w + Math.min(w - 2, Math.max(1, x))];
  });
}
