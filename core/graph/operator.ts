import { type Kernels } from '../kernels/kernels';
import { type At, type Value } from './tile';

/** Changes three planes of linear light in the kernels' memory, `plane` bytes apart from `at` on, pixel by pixel, in place. */
export type Within = (at: number, plane: number, count: number) => void;

/**
 * A step that the evaluator can do. Everything that makes a picture is one: an edit, a part of a region, a warp, a blend.
 * @typeParam S its settings, plain data
 */
export interface Operator<S extends object = object> {
  readonly kind: string;
  /** raised whenever it gives other values for the same settings */
  readonly version: number;
  readonly gives: 'light' | 'mask' | 'picture' | 'field' | 'fact';
  /** made beforehand, in the pool, and kept by hash; it has nothing to run here */
  readonly beforehand?: boolean;
  /** the light in which it works; its inputs come in it. Absent where either will do */
  readonly works?: 'linear' | 'encoded';
  /** where it looks at an input to give a place: the same place when left out, undefined for not at all */
  readonly needs?: (settings: S, at: At, input: number) => At | undefined;
  /** whether an input need not be made, as those after it that were made before show: what is laid nowhere is not drawn */
  readonly skips?: (
    input: number,
    made: readonly (Value | undefined)[],
    inputs: readonly string[],
  ) => boolean;
  readonly run?: (inputs: readonly (Value | undefined)[], settings: S, at: At) => Value;
  /** for what looks at one pixel of its first input at a time: the compiled form, so that several such steps become one pass */
  readonly within?: (k: Kernels, settings: S) => Within;
}

/** A table's operator: its settings are checked where the table is made, and known by kind from there on. */
export function operator<S extends object>(of: Operator<S>): Operator {
  return of as unknown as Operator;
}
