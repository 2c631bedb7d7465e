/** Crop ratios on offer, width to height; the long side lies as the picture lies. */
export const CROP_RATIOS = { free: undefined, '2:3': 3 / 2, '4:5': 5 / 4, '1:1': 1, '2:1': 2 } as const;

export type CropRatio = keyof typeof CROP_RATIOS;

/** Width over height that a ratio asks for, or `free`. */
export function ratioValue({
  ratio,
  upright,
}: {
  readonly ratio: CropRatio;
  readonly upright: boolean;
}): number | 'free' {
  const value = CROP_RATIOS[ratio];
  return value === undefined ? 'free' : upright ? 1 / value : value;
}
