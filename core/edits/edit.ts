import { type Region } from '../region/region';
import { type EditKindName, type EditSettings } from './editKinds';
import { type Rank } from './rank';

/** A change of the picture: at a set, a layer, a group or the whole, everywhere or in a region. */
export type Edit = {
  readonly [K in EditKindName]: {
    readonly id: string;
    readonly kind: K;
    readonly settings: EditSettings[K];
    /** where it is made: a region of its own, or the id of a named one; everywhere when absent */
    readonly where?: Region | string;
    /** how far it is taken over, 0…1 */
    readonly amount: number;
    readonly on: boolean;
    /** another rank than its kind's: what an earlier version did in another order */
    readonly rank?: Rank;
  };
}[EditKindName];
