import { type Operator } from '../graph/operator';
import { reflectThing } from './reflectThing';
import { shadeGround } from './shadeGround';
import { standThing } from './standThing';

/** The steps by which a plate stands in a picture. */
export const STAND_OPERATORS: readonly Operator[] = [standThing, shadeGround, reflectThing];
