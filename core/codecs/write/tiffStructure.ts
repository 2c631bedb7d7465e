/** Field types of TIFF 6.0, by number. */
export const ASCII = 2;
export const SHORT = 3;
export const LONG = 4;
export const RATIONAL = 5;
export const BYTES = 7;

const SIZE: Readonly<Record<number, number>> = {
  1: 1,
  [ASCII]: 1,
  [SHORT]: 2,
  [LONG]: 4,
  [RATIONAL]: 8,
  [BYTES]: 1,
};

/** One field of a directory; a rational is given as pairs of numerator and denominator. */
export interface TiffField {
  readonly tag: number;
  readonly type: number;
  readonly values: ArrayLike<number>;
}

export const shorts = (tag: number, ...values: number[]): TiffField => ({ tag, type: SHORT, values });
export const long = (tag: number, value: number): TiffField => ({ tag, type: LONG, values: [value] });
export const bytes = (tag: number, values: Uint8Array): TiffField => ({ tag, type: BYTES, values });

/** Text, ended by a zero; what ASCII does not have is left out. */
export function ascii(tag: number, text: string): TiffField {
  return {
    tag,
    type: ASCII,
    values: [...text.replace(/[^\x20-\x7e]/g, '')].map((c) => c.charCodeAt(0)).concat(0),
  };
}

/** A fraction near to a positive value, exact for 1/n and for decimals. */
export function rational(tag: number, value: number): TiffField {
  for (let q = 1; q <= 10000; q++)
    if (Math.abs(Math.round(value * q) / q - value) < 1e-7 * value)
      return { tag, type: RATIONAL, values: [Math.round(value * q), q] };
  return { tag, type: RATIONAL, values: [Math.round(value * 10000), 10000] };
}

/** Bytes that a directory takes with the values that do not fit into its fields. */
export function directorySize(fields: readonly TiffField[]): number {
  return fields.reduce((sum, f) => {
    const size = fieldSize(f);
    return sum + 12 + (size > 4 ? (size + 1) & ~1 : 0);
  }, 6);
}

const count = (f: TiffField): number => (f.type === RATIONAL ? f.values.length / 2 : f.values.length);
const fieldSize = (f: TiffField): number => count(f) * SIZE[f.type];

/** Writes a directory (little-endian, fields sorted by tag) at `at`; long values follow it. */
export function writeDirectory(view: DataView, at: number, unsorted: readonly TiffField[]): void {
  const fields = unsorted.slice().sort((a, b) => a.tag - b.tag);
  view.setUint16(at, fields.length, true);
  let values = at + 6 + fields.length * 12;
  fields.forEach((field, i) => {
    const p = at + 2 + i * 12;
    view.setUint16(p, field.tag, true);
    view.setUint16(p + 2, field.type, true);
    view.setUint32(p + 4, count(field), true);
    const size = fieldSize(field);
    const where = size <= 4 ? p + 8 : values;
    if (size > 4) {
      view.setUint32(p + 8, values, true);
      values += (size + 1) & ~1;
    }
    for (let k = 0; k < field.values.length; k++)
      if (field.type === SHORT) view.setUint16(where + 2 * k, field.values[k], true);
      else if (field.type === LONG || field.type === RATIONAL)
        view.setUint32(where + 4 * k, field.values[k], true);
      else view.setUint8(where + k, field.values[k]);
  });
  view.setUint32(at + 2 + fields.length * 12, 0, true);
}
