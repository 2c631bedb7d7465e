import { array } from 'yup';
import { numbers } from '../../recipe/schemaParts';

/** coefficients of a curve */
const MOST_COEFFICIENTS = 40;
const LEAST_COEFFICIENTS = 4;

const rises = (curve: readonly number[] | undefined): boolean =>
  curve === undefined || curve.every((v, i) => i === 0 || v >= curve[i - 1]);

/** The matrix of a map, row by row. */
export const mapMatrix = () =>
  numbers(9).test('nine', '${path} must be 3 × 3', (v) => v === undefined || v.length === 9);

/** The curves of a map: three alike that rise. @param none whether there may be none */
export const mapCurves = (none: boolean) =>
  array(
    numbers(MOST_COEFFICIENTS)
      .test('rises', '${path} must rise', rises)
      .test('long', '${path} is too short', (v) => v === undefined || v.length >= LEAST_COEFFICIENTS),
  ).test(
    'three',
    '${path} must be three curves alike',
    (v) =>
      v === undefined ||
      (none && v.length === 0) ||
      (v.length === 3 && v.every((c) => c?.length === v[0]?.length)),
  );
