import { array } from 'yup';
import { type Dab } from '../../cutout/dab';
import { oneOf, penLine, strict } from '../../recipe/schemaParts';

/** most dabs of one part, and points of one dab */
export const MOST_DABS = 200;
export const MOST_DAB_POINTS = 1000;

/** Guards dabs that come from files. @param says what they may say */
export const dabs = (says: readonly Dab['is'][] = ['this', 'not']) =>
  array(
    strict({
      is: oneOf(says),
      ...penLine(MOST_DAB_POINTS),
    }),
  )
    .max(MOST_DABS)
    .required();

/** What was pointed at, a few words. */
export const dabsSay = (drawn: readonly Dab[]): string =>
  drawn.length === 0
    ? 'nothing is pointed at yet'
    : `the thing under ${drawn.length} ${drawn.length === 1 ? 'dab' : 'dabs'}`;
