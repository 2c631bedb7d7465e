import { labOf } from '../../colour/deltaE';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3, transform } from '../../raster/matrix3';
import { srgbToLinear } from '../../raster/srgb';
import { type Place } from '../finding';
import { type StrongEdge, valueAt, worstBlock } from './edgeProfiles';
import { length2 } from '../../raster/length';

/** A frame as the fringe of the merged picture is held against it: its own picture at the level that is looked at. */
export interface FringeFrame {
  readonly image: EncodedImage;
  /** picture pixel → frame pixel, at that level */
  readonly matrix: Matrix3;
  readonly stops: number;
}

type Linear = readonly [number, number, number];
type At = (distance: number) => Linear;

/** pixels from the edge at which the colour of each side is read */
const SIDE = 5;
/** a frame holds a side of an edge below this share of white */
const HELD = 0.93;

const luminance = ([r, g, b]: Linear): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Chroma on an edge beyond what a mixture of its two sides and either side alone have, CIE C*ab. */
function chromaBeyond(at: At, scale: number): number {
  const lab = (d: number) => {
    const [r, g, b] = at(d);
    return labOf(r * scale, g * scale, b * scale);
  };
  const [dark, light] = [lab(-SIDE), lab(SIDE)];
  let most = 0;
  for (let d = -2; d <= 2; d++) {
    const [L, a, b] = lab(d);
    const span = light[0] - dark[0];
    const t = Math.abs(span) > 1 ? Math.min(1, Math.max(0, (L - dark[0]) / span)) : 0.5;
    const away = length2(a - (dark[1] + t * (light[1] - dark[1])), b - (dark[2] + t * (light[2] - dark[2])));
    const beyond = length2(a, b) - Math.max(length2(dark[1], dark[2]), length2(light[1], light[2]));
    most = Math.max(most, Math.min(away, Math.max(0, beyond)));
  }
  return most;
}

/** Linear light of a frame along an edge. */
function alongFrame({ image, matrix }: FringeFrame, { x, y, dx, dy }: StrongEdge): At {
  const { width, height, data, white } = image;
  return (d) => {
    const [u, v] = transform(matrix, x + d * dx, y + d * dy);
    const [iu, iv] = [
      Math.min(width - 2, Math.max(0, Math.floor(u))),
      Math.min(height - 2, Math.max(0, Math.floor(v))),
    ];
    const [fu, fv] = [Math.min(1, Math.max(0, u - iu)), Math.min(1, Math.max(0, v - iv))];
    const i = (iv * width + iu) * 3;
    const one = (c: number): number =>
      srgbToLinear(
        ((1 - fv) * ((1 - fu) * data[i + c] + fu * data[i + 3 + c]) +
          fv * ((1 - fu) * data[i + width * 3 + c] + fu * data[i + width * 3 + 3 + c])) /
          white,
      );
    return [one(0), one(1), one(2)];
  };
}

/**
 * Fringe of colour: chroma on a strong edge that neither of its sides has and that the one frame that holds the edge best does not
 * have either, CIE C*ab: what merging has put there.
 * @param linear R G B planes of the merged picture, linear sRGB
 */
export function fringeOf(
  linear: readonly Float32Array[],
  width: number,
  height: number,
  edges: readonly StrongEdge[],
  frames: readonly FringeFrame[],
): { value: number; where?: Place } {
  const lightest = frames.slice().sort((a, b) => b.stops - a.stops);
  const measure = (edge: StrongEdge): number => {
    const { x, y, dx, dy } = edge;
    const picture: At = (d) => {
      const [r, g, b] = linear.map((p) => valueAt(p, width, height, x + d * dx, y + d * dy));
      return [r, g, b];
    };
    const own = chromaBeyond(picture, 1);
    if (own === 0) return 0;
    const best = lightest.find((f) => Math.max(...alongFrame(f, edge)(SIDE)) < srgbToLinear(HELD));
    if (!best) return own;
    const frame = alongFrame(best, edge);
    const light = luminance(frame(SIDE));
    const scale = light > 0 ? luminance(picture(SIDE)) / light : 1;
    return Math.max(0, own - chromaBeyond(frame, scale));
  };
  return worstBlock(edges, measure, 32);
}
