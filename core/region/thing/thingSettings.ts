import { type Dab } from '../../cutout/dab';

/** What dabs point at. Their lengths are fractions of the long edge of the picture that it is cut from, so that they go with it wherever it lies. */
export interface ThingSettings {
  readonly dabs: readonly Dab[];
}

/** Whether dabs say what is meant: one on the thing at least. */
export const pointsAt = ({ dabs }: ThingSettings): boolean => dabs.some((d) => d.is === 'this');
