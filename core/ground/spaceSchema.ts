import { array, lazy, mixed, object, type Schema, string, tuple } from 'yup';
import { between, share, strict } from '../recipe/schemaParts';
import { LINE_FAMILIES } from './lines/lineFamilies';
import { MOST_SPACE_LINES, MOST_YARDSTICKS } from './space';

const left = (of: () => Schema): Schema =>
  lazy((value: unknown) => (value === undefined ? mixed().optional() : of())) as unknown as Schema;

const light = () => tuple([between(0, 1e6), between(0, 1e6), between(0, 1e6)]).required();
const direction = { azimuth: between(-360, 360), elevation: between(-90, 90) };

/** lamps of one picture at most */
const MOST_LAMPS = 32;

const rig = () =>
  strict({
    sun: left(() => strict({ ...direction, colour: light() })),
    sky: light(),
    bounce: light(),
    lamps: array(strict({ ...direction, distance: between(0.01, 1e5), colour: light() }))
      .max(MOST_LAMPS)
      .required(),
  });

const fraction = () => between(-50, 50);

/** Guards a picture's space as it comes from a file. */
export const spaceSchema = left(() =>
  strict({
    camera: strict({
      focal: between(0.05, 100),
      principal: tuple([fraction(), fraction()]).required(),
      horizon: fraction(),
      roll: left(() => between(-45, 45)),
      height: between(0.01, 1e5),
    }),
    light: rig(),
    unlit: mixed<boolean>().oneOf([true, false]).default(undefined).optional(),
    air: left(() => strict({ colour: light(), beta: between(0, 10) })),
    yardsticks: array(
      strict({
        foot: tuple([fraction(), fraction()]).required(),
        top: tuple([fraction(), fraction()]).required(),
      }),
    )
      .max(MOST_YARDSTICKS)
      .default(undefined)
      .optional(),
    lines: array(
      strict({
        from: tuple([fraction(), fraction()]).required(),
        to: tuple([fraction(), fraction()]).required(),
        family: string().oneOf(LINE_FAMILIES).required(),
        drawn: mixed<boolean>().oneOf([true, false]).default(undefined).optional(),
      }),
    )
      .max(MOST_SPACE_LINES)
      .default(undefined)
      .optional(),
    spread: left(() =>
      strict({
        horizon: left(() => between(0, 100)),
        roll: left(() => between(0, 90)),
        focal: left(() => between(0, 100)),
      }),
    ),
  }),
);

/** Guards how a plate stands. */
export const standSchema = left(() =>
  object({
    foot: tuple([fraction(), fraction()]).required(),
    top: left(() => fraction()),
    light: rig(),
    water: mixed<boolean>().oneOf([true, false]).required(),
    distance: left(() => between(0.01, 1e6)),
    relight: share(),
    shadow: share(),
  })
    .noUnknown()
    .strict(true),
);
