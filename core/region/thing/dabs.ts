import { array, mixed } from 'yup';
import { type Dab } from '../../cutout/dab';
import { areNumbers, between, oneOf, strict } from '../../recipe/schemaParts';

/** most dabs of one part, and points of one dab */
export const MOST_DABS = 200;
export const MOST_DAB_POINTS = 1000;

const isPoint = (p: unknown): boolean => areNumbers(p, 2) && p.every((v) => Math.abs(v) <= 50);

/** Guards dabs that come from files. */
/** @param says what they may say */
export const dabs = (says: readonly Dab['is'][] = ['this', 'not']) =>
  array(
    strict({
      is: oneOf(says),
      size: between(0, 2),
      points: mixed<Dab['points'][number][]>(
        (v): v is Dab['points'][number][] =>
          Array.isArray(v) && v.length > 0 && v.length <= MOST_DAB_POINTS && v.every(isPoint),
      ).required(),
    }),
  )
    .max(MOST_DABS)
    .required();

/** What was pointed at, a few words. */
export const dabsSay = (drawn: readonly Dab[]): string =>
  drawn.length === 0
    ? 'nothing is pointed at yet'
    : `the thing under ${drawn.length} ${drawn.length === 1 ? 'dab' : 'dabs'}`;
