import { array, mixed, object, tuple } from 'yup';
import { Problem } from '../proof/problem';
import { between } from '../recipe/schemaParts';
import { validJson } from '../recipe/validJson';
import { type Lamp, type LightColour, type Sun } from './light';
import { type Air } from './standing';

/** Light as far as it is known. */
export interface KnownLight {
  readonly sun?: Sun;
  readonly sky?: LightColour;
  readonly bounce?: LightColour;
  readonly lamps?: readonly Lamp[];
}

/** What is known of a picture and of a plate that is to stand in it; pixels of the upright picture, metres. What is absent is estimated. */
export interface GroundFacts {
  readonly focalPx?: number;
  readonly principal?: readonly [number, number];
  /** in the column of the optical axis */
  readonly horizonRow?: number;
  /** degrees, positive where the horizon falls to the right */
  readonly roll?: number;
  /** above the plane that the foot stands on */
  readonly cameraHeight?: number;
  readonly distance?: number;
  readonly water?: boolean;
  readonly light?: KnownLight;
  readonly plateLight?: KnownLight;
  readonly air?: Air;
}

const MOST_LAMPS = 32;

const colour = () => tuple([between(0, 1e6), between(0, 1e6), between(0, 1e6)]);
const direction = () => ({ azimuth: between(-360, 360), elevation: between(-90, 90) });
const light = () =>
  object({
    sun: object({ ...direction(), colour: colour().required() })
      .noUnknown()
      .default(undefined)
      .optional(),
    sky: colour().optional(),
    bounce: colour().optional(),
    lamps: array(
      object({ ...direction(), distance: between(0.01, 1e5), colour: colour().required() })
        .noUnknown()
        .required(),
    )
      .max(MOST_LAMPS)
      .optional(),
  })
    .noUnknown()
    .default(undefined)
    .optional();

const SCHEMA = object({
  focalPx: between(1, 1e6).optional(),
  principal: tuple([between(-1e6, 1e6), between(-1e6, 1e6)]).optional(),
  horizonRow: between(-1e6, 1e6).optional(),
  roll: between(-45, 45).optional(),
  cameraHeight: between(0.01, 1e5).optional(),
  distance: between(0.01, 1e6).optional(),
  water: mixed<boolean>().oneOf([true, false]).optional(),
  light: light(),
  plateLight: light(),
  air: object({ colour: colour().required(), beta: between(0, 10) })
    .noUnknown()
    .default(undefined)
    .optional(),
})
  .noUnknown()
  .required();

/**
 * Reads a file of facts.
 * @param where name of the file, for the sentence
 * @throws Problem naming the first thing that is wrong
 */
export function parseFacts(text: string, where: string): GroundFacts {
  const refuse = (detail: string): never => {
    throw new Problem(
      `“${where}” holds no facts that can be read: ${detail}. Write { "horizonRow": 88, "cameraHeight": 1.5, "light": { "sun": { "azimuth": -60, "elevation": 25, "colour": [3, 2.8, 2.4] } } }; leave out what you do not know.`,
    );
  };
  return validJson<GroundFacts>(text, SCHEMA, refuse);
}
