/**
 * Blend modes of W3C Compositing and Blending Level 1, section 9, on sRGB-encoded values 0…1 as there: B(backdrop, source).
 */

/** Section 9.1: one channel at a time. */
export const SEPARABLE = {
  normal: (_b: number, s: number): number => s,
  multiply: (b: number, s: number): number => b * s,
  screen: (b: number, s: number): number => b + s - b * s,
  overlay: (b: number, s: number): number => hardLight(s, b),
  darken: (b: number, s: number): number => Math.min(b, s),
  lighten: (b: number, s: number): number => Math.max(b, s),
  'color-dodge': (b: number, s: number): number => (b === 0 ? 0 : s >= 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b: number, s: number): number => (b >= 1 ? 1 : s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': (b: number, s: number): number => hardLight(b, s),
  'soft-light': (b: number, s: number): number => {
    if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
    const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
    return b + (2 * s - 1) * (d - b);
  },
  difference: (b: number, s: number): number => Math.abs(b - s),
  exclusion: (b: number, s: number): number => b + s - 2 * b * s,
} as const;

/** Three channels of one colour. */
export type Rgb = readonly [number, number, number];

/** Section 9.2: all three channels together. */
export const NON_SEPARABLE = {
  hue: (b: Rgb, s: Rgb): Rgb => setLuminosity(setSaturation(s, saturation(b)), luminosity(b)),
  saturation: (b: Rgb, s: Rgb): Rgb => setLuminosity(setSaturation(b, saturation(s)), luminosity(b)),
  color: (b: Rgb, s: Rgb): Rgb => setLuminosity(s, luminosity(b)),
  luminosity: (b: Rgb, s: Rgb): Rgb => setLuminosity(b, luminosity(s)),
} as const;

export type SeparableMode = keyof typeof SEPARABLE;
export type NonSeparableMode = keyof typeof NON_SEPARABLE;
export type BlendMode = SeparableMode | NonSeparableMode;

export const BLEND_MODES: readonly BlendMode[] = [
  ...(Object.keys(SEPARABLE) as SeparableMode[]),
  ...(Object.keys(NON_SEPARABLE) as NonSeparableMode[]),
];

export function isSeparable(mode: BlendMode): mode is SeparableMode {
  return mode in SEPARABLE;
}

function hardLight(b: number, s: number): number {
  return s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1);
}

function luminosity([r, g, b]: Rgb): number {
  return 0.3 * r + 0.59 * g + 0.11 * b;
}

function saturation(c: Rgb): number {
  return Math.max(...c) - Math.min(...c);
}

function setLuminosity(c: Rgb, l: number): Rgb {
  const d = l - luminosity(c);
  return clipColour([c[0] + d, c[1] + d, c[2] + d]);
}

function clipColour(c: Rgb): Rgb {
  const l = luminosity(c);
  const [n, x] = [Math.min(...c), Math.max(...c)];
  let out = c;
  if (n < 0) out = [0, 1, 2].map((i) => l + ((out[i] - l) * l) / (l - n)) as unknown as Rgb;
  if (x > 1) out = [0, 1, 2].map((i) => l + ((out[i] - l) * (1 - l)) / (x - l)) as unknown as Rgb;
  return out;
}

function setSaturation(c: Rgb, s: number): Rgb {
  const [least, most] = [Math.min(...c), Math.max(...c)];
  if (most <= least) return [0, 0, 0];
  // the largest becomes s, the least 0, the middle keeps its share
  return c.map((v) => ((v - least) * s) / (most - least)) as unknown as Rgb;
}
