import { type Lab, labOf } from '../../colour/deltaE';

/** Linear light of sRGB primaries, 1 is the white of a perfect diffuser. */
export type PatchLight = readonly [r: number, g: number, b: number];

/** Luminance of light (IEC 61966-2-1). */
export const luminance = ([r, g, b]: PatchLight): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** A patch of a chart, as published: its colour by CIE 1931 xyY. */
export interface ChartPatch {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  /** luminous reflectance, hundredths */
  readonly Y: number;
}

/** patches of a row, and rows */
export const CHART_COLUMNS = 6;
export const CHART_ROWS = 4;
/** patch from which on they are neutral: white to black */
export const FIRST_NEUTRAL = 18;

/**
 * The chart of 24 patches, row by row: McCamy, Marcus and Davidson, “A Color-Rendition Chart” (J. Appl. Photogr. Eng. 2, 1976), table of
 * chromaticities under illuminant C, 2° observer. Written from memory, checked by the sRGB codes that are common knowledge for it.
 */
export const CHART: readonly ChartPatch[] = [
  { name: 'dark skin', x: 0.4002, y: 0.3504, Y: 10.05 },
  { name: 'light skin', x: 0.3773, y: 0.3446, Y: 35.82 },
  { name: 'blue sky', x: 0.247, y: 0.2514, Y: 19.33 },
  { name: 'foliage', x: 0.3372, y: 0.422, Y: 13.29 },
  { name: 'blue flower', x: 0.2651, y: 0.24, Y: 24.27 },
  { name: 'bluish green', x: 0.2608, y: 0.343, Y: 43.06 },
  { name: 'orange', x: 0.506, y: 0.407, Y: 30.05 },
  { name: 'purplish blue', x: 0.211, y: 0.175, Y: 12 },
  { name: 'moderate red', x: 0.4533, y: 0.3058, Y: 19.77 },
  { name: 'purple', x: 0.2845, y: 0.202, Y: 6.56 },
  { name: 'yellow green', x: 0.38, y: 0.4887, Y: 44.29 },
  { name: 'orange yellow', x: 0.4729, y: 0.4375, Y: 43.06 },
  { name: 'blue', x: 0.1866, y: 0.1285, Y: 6.11 },
  { name: 'green', x: 0.3046, y: 0.4782, Y: 23.39 },
  { name: 'red', x: 0.5385, y: 0.3129, Y: 12 },
  { name: 'yellow', x: 0.448, y: 0.4703, Y: 59.1 },
  { name: 'magenta', x: 0.3635, y: 0.2325, Y: 19.77 },
  { name: 'cyan', x: 0.1958, y: 0.2519, Y: 19.77 },
  { name: 'white', x: 0.3101, y: 0.3163, Y: 90.01 },
  { name: 'light grey', x: 0.3101, y: 0.3163, Y: 59.1 },
  { name: 'grey', x: 0.3101, y: 0.3163, Y: 36.2 },
  { name: 'middle grey', x: 0.3101, y: 0.3163, Y: 19.77 },
  { name: 'dark grey', x: 0.3101, y: 0.3163, Y: 9 },
  { name: 'black', x: 0.3101, y: 0.3163, Y: 3.13 },
];

type Triple = readonly [number, number, number];
type Rows = readonly [Triple, Triple, Triple];

const times = (m: Rows, v: Triple): [number, number, number] => [
  m[0][0] * v[0] + m[0][1] * v[1] + m[0][2] * v[2],
  m[1][0] * v[0] + m[1][1] * v[1] + m[1][2] * v[2],
  m[2][0] * v[0] + m[2][1] * v[1] + m[2][2] * v[2],
];

/** the cone responses of Bradford’s adaptation, and back (Lam 1985; ICC.1) */
const BRADFORD: Rows = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];
const BRADFORD_BACK: Rows = [
  [0.9869929, -0.1470543, 0.1599627],
  [0.4323053, 0.5183603, 0.0492912],
  [-0.0085287, 0.0400428, 0.9684867],
];
/** whites: that of the greys of the table, which is illuminant C’s, and D65 (IEC 61966-2-1) */
const WHITE_C: Triple = [0.3101 / 0.3163, 1, (1 - 0.3101 - 0.3163) / 0.3163];
const WHITE_D65: Triple = [0.9504559270516716, 1, 1.0890577507598784];
/** XYZ under D65 → linear sRGB (IEC 61966-2-1) */
const TO_SRGB: Rows = [
  [3.2409699419045226, -1.537383177570094, -0.4986107602930034],
  [-0.9692436362808796, 1.8759675015077202, 0.0415550574071756],
  [0.0556300796969936, -0.2039769588889765, 1.0569715142428786],
];

const [FROM, TO] = [times(BRADFORD, WHITE_C), times(BRADFORD, WHITE_D65)];

/** Light of a patch under D65; what sRGB cannot hold is below 0. */
function lightOfPatch({ x, y, Y }: ChartPatch): PatchLight {
  const [l, m, s] = times(BRADFORD, [(x / y) * (Y / 100), Y / 100, ((1 - x - y) / y) * (Y / 100)]);
  return times(
    TO_SRGB,
    times(BRADFORD_BACK, [(l * TO[0]) / FROM[0], (m * TO[1]) / FROM[1], (s * TO[2]) / FROM[2]]),
  );
}

/** Light of each patch of the chart under D65, row by row. */
export const CHART_LIGHT: readonly PatchLight[] = CHART.map(lightOfPatch);

/** Its colours, CIE L*a*b* under D65. */
export const CHART_LAB: readonly Lab[] = CHART_LIGHT.map((light) => labOf(...light));
