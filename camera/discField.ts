/** Light and opacity of a picture or a part of it: red, green, blue and opacity beside each other, one place of memory for all four. */
export interface Field {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Part of a field: columns and rows, ends left out. */
export interface Part {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Squares of one layer that are to be spread, in the order of their rows; only the first `count` of each list hold anything. */
export interface Cells {
  count: number;
  /** row · width + column of each */
  readonly places: Int32Array;
  /** radius of each one's disc, squares */
  readonly radii: Float32Array;
  /** red, green, blue and opacity of each */
  readonly light: Float32Array;
  /** where in the lists each place of the field is; −1 for those that are not */
  readonly slots: Int32Array;
}

/** A picture in squares of one width, with room for a layer on its way there. */
export interface Level {
  /** what lies there, joined */
  readonly field: Field;
  /** differences along rows of the layer that is being spread; empty between layers */
  readonly sums: Field;
  readonly cells: Cells;
}

/** Places of the field of a level whose squares are 2^`level` pixels wide. */
export function levelSize(width: number, height: number, level: number): { width: number; height: number } {
  return { width: Math.ceil(width / 2 ** level), height: Math.ceil(height / 2 ** level) };
}

/** Levels of a picture from its pixels on. */
export function emptyLevels(width: number, height: number, count: number): Level[] {
  return Array.from({ length: count }, (_, l) => {
    const size = levelSize(width, height, l);
    const n = size.width * size.height;
    return levelIn(
      size,
      new Float32Array(4 * n),
      new Float32Array(4 * n),
      new Float32Array(4 * n),
      new Int32Array(n),
    );
  });
}

/** A level in given memory: field, sums and light of four numbers a place, and the places. */
export function levelIn(
  size: { readonly width: number; readonly height: number },
  field: Float32Array,
  sums: Float32Array,
  light: Float32Array,
  places: Int32Array,
): Level {
  const n = size.width * size.height;
  return {
    field: { ...size, data: field },
    sums: { ...size, data: sums },
    cells: { count: 0, places, light, radii: new Float32Array(n), slots: new Int32Array(n).fill(-1) },
  };
}
