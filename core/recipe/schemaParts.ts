import { mixed, number, object, type ObjectShape, string } from 'yup';
import { isRealDate } from '../capture/realDate';
import { type StrokePoint } from '../mask/stroke';
import { determinant, type Matrix3, multiply, transposed } from '../raster/matrix3';
import { type PenLine } from '../raster/penCells';

/** An object with just these fields. */
export const strict = <S extends ObjectShape>(shape: S) => object(shape).noUnknown().strict(true).required();

/** A finite number in a range. */
export const between = (low: number, high: number) =>
  number()
    .strict(true)
    .required()
    .test('finite', '${path} must be a finite number', (v) => v === undefined || Number.isFinite(v))
    .min(low)
    .max(high);

export const share = () => between(0, 1);
export const count = () => between(0, 1e12).integer();

/** A coordinate on the picture, or a distance: full-size pixels. */
export const place = () => between(-1e6, 1e6);

/** Text without halves of characters, which no address and no file takes. */
export const text = (most: number) =>
  string()
    .strict(true)
    .defined()
    .max(most)
    .test('characters', '${path} must be made of whole characters', (v) => !/\p{Surrogate}/u.test(v ?? ''));

export const id = () => text(80).min(1);

export const oneOf = <T extends string>(values: readonly T[]) =>
  mixed<T>()
    .oneOf([...values])
    .required();

/** A point in time. */
export const date = () =>
  text(40).test('date', '${path} must be a date', (v) => v === undefined || isRealDate(v));

const isNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);
/** Whether something is a list of so many finite numbers. */
export const areNumbers = (value: unknown, length: number): value is readonly number[] =>
  Array.isArray(value) && value.length === length && value.every(isNumber);

/** determinant of the upper left 2 × 2 part, relative: a map that squeezes the plane further shows nothing */
const FLATTEST = 1e-6;

/** A map from plane to plane that can be turned round: row-major, scaled to a last entry of 1. */
export const homography = () =>
  mixed<Matrix3>(
    (v): v is Matrix3 =>
      areNumbers(v, 9) &&
      v.every((e) => Math.abs(e) <= 1e6) &&
      Math.abs(v[8]) > 1e-9 &&
      Math.abs(determinant(v as Matrix3)) > FLATTEST,
  ).required();

/** largest entry by which R·Rᵗ may be off the identity */
const OFF_ROTATION = 1e-3;

/** A rotation matrix, or null for a frame that has none. */
export const rotation = () =>
  mixed<Matrix3>((v): v is Matrix3 => {
    if (!areNumbers(v, 9)) return false;
    const R = v as Matrix3;
    const off = multiply(R, transposed(R)).map((e, i) => Math.abs(e - (i % 4 === 0 ? 1 : 0)));
    return Math.max(...off) <= OFF_ROTATION && determinant(R) > 0;
  })
    .nullable()
    .defined();

/** A long list of numbers, looked through at once: a schema for each would take seconds. */
export const numbers = (most: number) =>
  mixed<number[]>(
    (v): v is number[] =>
      Array.isArray(v) && v.length <= most && v.every((e) => isNumber(e) && Math.abs(e) <= 1e6),
  ).required();

/** A long list of records of numbers with just these fields. */
export const rows = (fields: readonly string[], most: number) =>
  mixed<Record<string, number>[]>(
    (value): value is Record<string, number>[] =>
      Array.isArray(value) &&
      value.length <= most &&
      value.every((row: unknown) => {
        if (!row || typeof row !== 'object' || Object.keys(row).length !== fields.length) return false;
        const record = row as Record<string, unknown>;
        return fields.every(
          (f) => Object.hasOwn(record, f) && isNumber(record[f]) && Math.abs(record[f]) <= 1e6,
        );
      }),
  ).required();

/** points that one stroke may have before it is simplified */
const MOST_POINTS = 20_000;

/** The points of a stroke: places in fractions of the long edge, pressure 0…1. */
export const points = () =>
  mixed<StrokePoint[]>(
    (value): value is StrokePoint[] =>
      Array.isArray(value) &&
      value.length > 0 &&
      value.length <= MOST_POINTS &&
      value.every(
        (p: unknown) =>
          areNumbers(p, 3) && Math.abs(p[0]) <= 50 && Math.abs(p[1]) <= 50 && p[2] >= 0 && p[2] <= 1,
      ),
  ).required();

const isPoint = (p: unknown): boolean => areNumbers(p, 2) && p.every((v) => Math.abs(v) <= 50);

/** Guards a pen that was drawn along points. */
export const penLine = (most: number) => ({
  size: between(0, 2),
  points: mixed<PenLine['points'][number][]>(
    (v): v is PenLine['points'][number][] =>
      Array.isArray(v) && v.length > 0 && v.length <= most && v.every(isPoint),
  ).required(),
});
