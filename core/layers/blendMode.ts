/**
 * Separable blend modes of W3C Compositing and Blending Level 1, section 9, on sRGB-encoded values 0…1 as there:
 * B(backdrop, source).
 */
export const BLEND_MODES = {
  normal: (_backdrop: number, source: number): number => source,
  lighten: (backdrop: number, source: number): number => Math.max(backdrop, source),
  screen: (backdrop: number, source: number): number => backdrop + source - backdrop * source,
  multiply: (backdrop: number, source: number): number => backdrop * source,
} as const;

export type BlendMode = keyof typeof BLEND_MODES;
