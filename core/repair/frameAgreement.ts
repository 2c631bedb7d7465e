import { deltaE2000, type Lab, labOf } from '../colour/deltaE';
import { linearToSrgb } from '../raster/srgb';
import { pasted, pasteGain } from './pasteGain';

/** Light on the rectangle of a gap, linear. */
export interface GapLight {
  /** R, G, B */
  readonly planes: readonly Float32Array[];
  /** how much of each pixel it reaches; all when absent */
  readonly alpha?: Float32Array;
}

/** How well a frame stands in for what must go. */
export interface FrameAgreement {
  /** mean ΔE2000 about the gap, once its light is that of the picture */
  readonly about: number;
  /** share of the gap's detail that is another than the picture's, less what is so about the gap: what shows the same helps nothing, however light it is */
  readonly other: number;
  /** the same against what most of the other frames show; 0 where there are none */
  readonly odd: number;
  /** share of the gap that it does not reach, and share that is burnt out or black in it */
  readonly missing: number;
  readonly clipped: number;
}

/** encoded light beyond which a pixel tells nothing */
const [BLACK, BURNT] = [5 / 255, 250 / 255];
/** places at which colours are compared, at most about so many */
const COMPARED = 4000;

type Planes = readonly Float32Array[];

/**
 * Holds what frames show in a gap, and about it, against the picture and against each other.
 * @param picture what is there now
 * @param inGap [pixel] 1 in the gap
 * @returns in the order of the frames
 */
export function frameAgreement(
  picture: GapLight,
  frames: readonly GapLight[],
  inGap: Uint8Array,
  width: number,
  height: number,
): FrameAgreement[] {
  const reaches = (f: GapLight, i: number): boolean => (f.alpha?.[i] ?? 1) > 0.5;
  const laid = frames.map((f) => {
    const known = Uint8Array.from(inGap, (g, i) => (g === 0 && reaches(f, i) ? 1 : 0));
    return f.planes.map((p, c) => {
      const gain = pasteGain(picture.planes[c], p, known, width, height, 1);
      return p.map((v, i) => pasted(v, gain[i]));
    });
  });
  const step = Math.max(1, Math.floor(inGap.length / COMPARED));
  const places: number[] = [];
  for (let i = 0; i < inGap.length; i += step) places.push(i);
  const own = lightness(picture.planes);
  const lights = laid.map(lightness);
  return frames.map((frame, k) => {
    const around = places.filter((i) => inGap[i] === 0 && reaches(frame, i));
    const inside = places.filter((i) => inGap[i] === 1);
    const there = inside.filter((i) => reaches(frame, i));
    const rest = lights.filter((_, other) => other !== k);
    const usual = Float32Array.from(own, (_, i) => middle(rest.map((p) => p[i])));
    return {
      about: mean(around, (i) => deltaE2000(labAt(picture.planes, i), labAt(laid[k], i))),
      other: otherDetail(own, lights[k], inGap, width, height),
      odd: rest.length > 0 ? otherDetail(usual, lights[k], inGap, width, height) : 0,
      missing: 1 - there.length / Math.max(1, inside.length),
      clipped: mean(there, (i) => {
        const codes = frame.planes.map((p) => linearToSrgb(Math.max(0, p[i])));
        return Math.max(...codes) > BURNT || Math.max(...codes) < BLACK ? 1 : 0;
      }),
    };
  });
}

const mean = (some: readonly number[], of: (i: number) => number): number =>
  some.length === 0 ? 0 : some.reduce((sum, i) => sum + of(i), 0) / some.length;

function labAt(planes: Planes, i: number): Lab {
  const [r, g, b] = planes.map((p) => Math.max(0, Math.min(1, p[i])));
  return labOf(r, g, b);
}

/** Relative luminance (IEC 61966-2-1), its cube root as in CIE lightness. */
const lightness = ([R, G, B]: Planes): Float32Array =>
  Float32Array.from(R, (r, i) => Math.cbrt(Math.max(0, 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i])));

/** half the side of the windows in which detail is compared, pixels between them, and the correlation below which it is another */
const [WINDOW, APART, ALIKE] = [4, 2, 0.5];

/**
 * Share of the detail in a gap that two pictures do not have in common, less the share about it: windows in which their lightness does not
 * correlate, weighed by how much there is to see in them. What a merge did to the tones changes nothing in it, noise is the same in both places.
 */
function otherDetail(
  a: Float32Array,
  b: Float32Array,
  inGap: Uint8Array,
  width: number,
  height: number,
): number {
  const seen = [0, 0];
  const other = [0, 0];
  for (let y = WINDOW; y < height - WINDOW; y += APART)
    for (let x = WINDOW; x < width - WINDOW; x += APART) {
      const { covered, detail, correlation } = windowAt(a, b, inGap, width, x, y);
      const isInside = inGap[y * width + x] === 1;
      // about the gap: where nothing of it is
      if (!isInside && covered > 0) continue;
      const side = isInside ? 0 : 1;
      seen[side] += detail;
      if (correlation < ALIKE) other[side] += detail;
    }
  const share = (side: 0 | 1): number => (seen[side] > 0 ? other[side] / seen[side] : 0);
  return share(0) - share(1);
}

/** How two planes run in a window. */
function windowAt(
  a: Float32Array,
  b: Float32Array,
  inGap: Uint8Array,
  width: number,
  x: number,
  y: number,
): { covered: number; detail: number; correlation: number } {
  let [covered, sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
  for (let v = y - WINDOW; v <= y + WINDOW; v++)
    for (let i = v * width + x - WINDOW; i <= v * width + x + WINDOW; i++) {
      covered += inGap[i];
      sa += a[i];
      sb += b[i];
      aa += a[i] * a[i];
      bb += b[i] * b[i];
      ab += a[i] * b[i];
    }
  const n = (2 * WINDOW + 1) ** 2;
  const va = Math.max(0, aa / n - (sa / n) ** 2);
  const vb = Math.max(0, bb / n - (sb / n) ** 2);
  const both = ab / n - (sa / n) * (sb / n);
  return {
    covered,
    detail: Math.sqrt(va) + Math.sqrt(vb),
    correlation: both / Math.max(1e-9, Math.sqrt(va * vb)),
  };
}

function middle(values: number[]): number {
  if (values.length === 0) return 0;
  values.sort((a, b) => a - b);
  const half = values.length >> 1;
  return values.length % 2 === 1 ? values[half] : (values[half - 1] + values[half]) / 2;
}

/** What a frame may lack and still be taken without asking. */
const [MOST_ABOUT, MOST_MISSING, MOST_CLIPPED] = [6, 0.005, 0.3];
/** share of other detail from which it is something else that is shown */
const LEAST_OTHER = 0.06;

/** Whether a frame shows something else than the picture in the gap. */
export const showsOther = ({ other }: FrameAgreement): boolean => other >= LEAST_OTHER;

/** Whether a frame shows what lies behind, and lies well enough on the picture. */
export const isFit = (a: FrameAgreement): boolean =>
  a.about <= MOST_ABOUT && showsOther(a) && a.missing <= MOST_MISSING && a.clipped <= MOST_CLIPPED;

/** The frame to be taken, by its place; −1 where none shows what lies behind. */
export function bestFrame(agreements: readonly FrameAgreement[]): number {
  const worth = ({ about, odd, clipped }: FrameAgreement): number => about + 20 * odd + 10 * clipped;
  return agreements.reduce(
    (best, a, i) => (isFit(a) && (best < 0 || worth(a) < worth(agreements[best])) ? i : best),
    -1,
  );
}
