/**
 * Colours that tell frames apart in the origin view, sRGB codes: the palette of Okabe & Ito (2008), safe for the common kinds of
 * colour blindness. More frames than colours repeat it.
 */
export const FRAME_COLOURS: readonly (readonly [number, number, number])[] = [
  [0, 114, 178],
  [86, 180, 233],
  [0, 158, 115],
  [240, 228, 66],
  [230, 159, 0],
  [213, 94, 0],
  [204, 121, 167],
];
