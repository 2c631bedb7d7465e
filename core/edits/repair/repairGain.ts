import { operator } from '../../graph/operator';
import { type At } from '../../graph/tile';
import { lightOf, maskOf } from '../../graph/wanted';
import { type Rectangle } from '../../raster/raster';
import { pasteGain } from '../../repair/pasteGain';

/** A gain, and how exactly both are held against each other. */
interface GainSettings extends GainGrid {
  /** pixels over which light is averaged before */
  readonly about: number;
}

/** Where the difference between what is laid over a gap and what is about it is told: a rectangle of one level. */
export interface GainGrid {
  readonly level: number;
  readonly area: Rectangle;
}

/** sides of that rectangle, pixels, and what of it lies about the gap */
const [LARGEST, MARGIN] = [248, 12];
/** what is less covered by the region than this is not in the gap */
export const OUTSIDE = 1 / 255;

/** The grid on which the light about a gap is compared. */
export function gainGrid({ x, y, width, height }: Rectangle): GainGrid {
  const level = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / (LARGEST - 2 * MARGIN))));
  const scale = 2 ** level;
  const [left, top] = [Math.floor(x / scale) - MARGIN, Math.floor(y / scale) - MARGIN];
  return {
    level,
    area: {
      x: left,
      y: top,
      width: Math.ceil((x + width) / scale) + MARGIN - left,
      height: Math.ceil((y + height) / scale) + MARGIN - top,
    },
  };
}

export const gridAt = ({ level, area }: GainGrid): At => ({ level, area, kernel: 'bilinear' });

/**
 * By how much the light about a gap differs from what is to be laid over it, as the logarithm of their ratio, carried on into the gap; the
 * logarithm of the light itself where nothing is to be laid over it. Inputs: the picture, where the gap is, and what is laid over it.
 */
export const repairGain = operator<GainSettings>({
  kind: 'repairGain',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: (settings) => gridAt(settings),
  run: ([picture, mask, source], settings, at) => {
    const { width, height } = settings.area;
    const own = lightOf(picture, 'a repair').planes;
    const { plane } = maskOf(mask, 'a repair');
    const laid = source && lightOf(source, 'a repair');
    const known = Uint8Array.from(plane, (v, i) => (v < OUTSIDE && (laid?.alpha?.[i] ?? 1) > 0.5 ? 1 : 0));
    const planes = own.map((p, c) =>
      placed(pasteGain(p, laid?.planes[c], known, width, height, settings.about), settings.area, at.area),
    );
    return { is: 'light', planes, encoded: false };
  },
});

/** A plane of one rectangle on another, its edges continued. */
function placed(plane: Float32Array, from: Rectangle, to: Rectangle): Float32Array {
  if (from.x === to.x && from.y === to.y && from.width === to.width && from.height === to.height)
    return plane;
  const out = new Float32Array(to.width * to.height);
  const within = (v: number, most: number): number => Math.min(most - 1, Math.max(0, v));
  for (let y = 0, o = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++, o++)
      out[o] =
        plane[within(to.y + y - from.y, from.height) * from.width + within(to.x + x - from.x, from.width)];
  return out;
}
