import { type Schema } from 'yup';
import { type GraphBuilder } from '../graph/graph';
import { type Operator } from '../graph/operator';
import { type Rank } from './rank';
import { type RepairPlace } from './repair/repairPlace';
import { type RepairSettings } from './repair/repairSettings';

/** The region that an edit is made in. */
export interface EditRegion {
  /** hash of its mask */
  readonly mask: string;
  readonly place: RepairPlace;
}

/** Frames on the grid of what is changed. */
export interface EditFrames {
  /** of those that may show something else: none where they differ by what is sharp in them */
  readonly ids: readonly string[];
  /** those of them that were exposed as the reference was */
  readonly alike: readonly string[];
  /** hash of a frame's light there; undefined for one that was not fitted, or is not at hand */
  readonly lightOf: (id: string) => string | undefined;
}

/** What an edit finds where it is made: hashes of nodes. */
export interface EditPlace {
  /** fact: the noise of the picture that is changed, encoded 0…1; absent where it has none of its own */
  readonly noise?: string;
  /** fact: the large areas of light of the picture that is changed; absent for all but a radiance map */
  readonly toneBase?: string;
  /** the frames of the same set; absent where they do not lie on the grid of the picture that is changed */
  readonly frames?: EditFrames | undefined;
  /** long edge of what is changed, full-size pixels; absent for the tone map of a set */
  readonly longEdge?: number;
  /** absent where it is made everywhere */
  readonly where?: EditRegion;
  /** fact: what its region can be copied from, see {@link FillOffsets}; undefined until it was found */
  readonly offsets?: (how: Pick<RepairSettings, 'seed' | 'within'>) => string | undefined;
}

/** What an edit becomes in a graph. */
export interface CompiledEdit {
  /** hash of what it gives when it is taken over whole */
  readonly changed: string;
  /** how far its own settings take it over, 0…1; whole when absent */
  readonly share?: number;
}

/**
 * A kind of edit: everything there is to know about it but its controls.
 * @typeParam S its settings, plain data
 */
export interface EditKind<S extends object> {
  readonly kind: string;
  readonly rank: Rank;
  /** what it does lies in the finest detail: of a picture made smaller nothing of it is seen */
  readonly finest?: true;
  /** settings that it begins with */
  readonly plain: S;
  /** guards what comes from files */
  readonly schema: Schema;
  /** whether such settings change anything */
  readonly changes: (settings: S) => boolean;
  /** what such settings do, a few words */
  readonly says: (settings: S) => string;
  /** steps that it brings to the evaluator */
  readonly operators: readonly Operator[];
  /** @param input hash of the light that it changes; undefined where it cannot be made */
  readonly compile: (
    graph: GraphBuilder,
    input: string,
    settings: S,
    place: EditPlace,
  ) => CompiledEdit | undefined;
}
