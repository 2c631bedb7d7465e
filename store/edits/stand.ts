import { type Belonging } from '@/core/ground/belong';
import { type LightDirection } from '@/core/ground/light';
import { type Stand } from '@/core/ground/space';
import { type Change, layerOf } from './drafts';
import { newEdit } from './list';

/** Stands a plate in the picture's space, as it was made to belong. The space becomes that of the whole picture. */
export const standPlate =
  (
    id: string,
    { space, stand, place, stops }: Pick<Belonging, 'space' | 'stand' | 'place' | 'stops'>,
  ): Change =>
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

/** Changes how a plate stands. */
export const setStand =
  (id: string, change: Partial<Pick<Stand, 'relight' | 'shadow' | 'water'>>): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.stand) Object.assign(layer.stand, change);
  };

/** Takes a plate off the ground: it lies in the picture as it came. */
export const liftPlate =
  (id: string): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer) delete layer.stand;
  };

/** Turns the sun that everything in the picture stands in. */
export const turnSun =
  (to: Partial<LightDirection>): Change =>
  (draft) => {
    if (draft.space?.light.sun) Object.assign(draft.space.light.sun, to);
  };
