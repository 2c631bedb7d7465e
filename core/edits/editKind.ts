import { type Schema } from 'yup';
import { type GraphBuilder } from '../graph/graph';
import { type Operator } from '../graph/operator';
import { type Rank } from './rank';

/** What an edit finds where it is made: hashes of nodes. */
export interface EditPlace {
  /** fact: the noise of the picture that is changed, encoded 0…1; absent where it has none of its own */
  readonly noise?: string;
  /** fact: the large areas of light of the picture that is changed; absent for all but a radiance map */
  readonly toneBase?: string;
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
