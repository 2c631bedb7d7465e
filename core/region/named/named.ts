import { id, strict } from '../../recipe/schemaParts';
import { type PartKind } from '../partKind';

/** A region that has a name of its own. */
export interface NamedSettings {
  readonly region: string;
}

export const named: PartKind<NamedSettings> = {
  kind: 'named',
  schema: strict({ region: id() }),
  plain: { region: '' },
  says: () => 'a named region',
  operators: [],
  compile: (_, { region }, place) => place.named(region),
};
