import { type Belonging } from '@/core/ground/belong';
import { type Change, layerOf } from './drafts';
import { newEdit } from './list';

/** Stands a plate in the picture's space, as it was made to belong. The space becomes that of the whole picture. */
export const standPlate =
  (id: string, { space, stand, place, stops }: Belonging): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.kind !== 'picture' || layer.source.kind !== 'plate') return;
    draft.space = structuredClone(space) as typeof draft.space;
    layer.stand = structuredClone(stand) as typeof layer.stand;
    layer.place = structuredClone(place) as typeof layer.place;
    const lightened = `${id}-belongs`;
    layer.edits = layer.edits.filter((e) => e.id !== lightened);
    if (stops !== undefined)
      layer.edits.push(newEdit(lightened, 'exposure', { stops }) as (typeof layer.edits)[number]);
  };
