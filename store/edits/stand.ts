import { type Belonging } from '@/core/ground/belong';
import { type GroundCamera } from '@/core/ground/groundView';
import { type LightDirection, type LightRig } from '@/core/ground/light';
import { type Space, type SpaceLine, type Stand, type Yardstick } from '@/core/ground/space';
import { type Air } from '@/core/ground/standing';
import { allLayers } from '@/core/layers/layer';
import { type Place } from '@/core/layers/place';
import { type Project } from '@/core/recipe/project';
import { current, type Draft } from 'immer';
import { type Change, layerOf } from './drafts';
import { newEdit } from './list';

/** The edit that brings a plate nearer to its surroundings where no light is known. */
const lightened = (layer: string): string => `${layer}-belongs`;

/** Stands a plate in the picture's space, as it was made to belong. The space becomes that of the whole picture. */
export const standPlate =
  (
    id: string,
    { space, stand, place, stops }: Pick<Belonging, 'space' | 'stand' | 'place' | 'stops'>,
  ): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.kind !== 'picture' || layer.source.kind !== 'plate') return;
    // what heights and the camera are told by stays
    const { yardsticks, lines, spread } = draft.space ? current(draft.space) : {};
    draft.space = structuredClone({
      ...space,
      ...(yardsticks ? { yardsticks } : {}),
      ...(lines ? { lines } : {}),
      ...(spread ? { spread } : {}),
    }) as typeof draft.space;
    layer.stand = structuredClone(stand) as typeof layer.stand;
    layer.place = structuredClone(place) as typeof layer.place;
    layer.edits = layer.edits.filter((e) => e.id !== lightened(id));
    if (stops !== undefined)
      layer.edits.push(newEdit(lightened(id), 'exposure', { stops }) as (typeof layer.edits)[number]);
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

/** Puts a plate's foot somewhere else: it keeps its metres, so that its size follows. @param place see footMoved */
export const moveFoot =
  (id: string, place: Place): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.kind === 'picture') layer.place = structuredClone(place) as typeof layer.place;
  };

/** Turns a plate left for right about its foot. @param foot where that is, a fraction of the picture's long edge from its left */
export const mirrorAtFoot =
  (id: string, foot: number): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.kind !== 'picture' || !layer.place) return;
    const { place } = layer;
    Object.assign(place, { x: 2 * foot - place.x, turn: -place.turn, mirrored: !place.mirrored });
  };

/** Lays the ground under a picture, so that things can stand on it. */
export const laySpace =
  (space: Space): Change =>
  (draft) => {
    draft.space = structuredClone(space) as typeof draft.space;
  };

/** Takes a thing that stands upright as a yardstick, or leaves one out. */
export const setYardsticks =
  (yardsticks: readonly Yardstick[]): Change =>
  (draft) => {
    if (draft.space) draft.space.yardsticks = structuredClone(yardsticks) as Draft<Yardstick[]>;
  };

/** How the picture's camera stands over its ground. What is set by hand is no longer what lines told. */
export const setCamera =
  (change: Partial<GroundCamera>): Change =>
  (draft) => {
    const { space } = draft;
    if (!space) return;
    Object.assign(space.camera, change);
    const { spread } = space;
    if (!spread) return;
    for (const key of ['horizon', 'roll', 'focal'] as const)
      if (change[key] !== undefined) delete spread[key];
  };

/** How the picture's camera is held, as its lines tell it. @param told left out where they tell nothing: the lines are kept */
export const setLines =
  (lines: readonly SpaceLine[], told?: Pick<Space, 'camera' | 'spread'>): Change =>
  (draft) => {
    const { space } = draft;
    if (!space) return;
    space.lines = structuredClone(lines) as Draft<SpaceLine[]>;
    if (told) Object.assign(space, structuredClone(told));
  };

/** where a sun comes from that is put into a picture of which nothing was known, and its share of the light on the ground */
const NEW_SUN = { azimuth: -60, elevation: 35, share: 0.6 } as const;
/** how far a plate is relit whose own light is only estimated */
const RELIT = 0.75;

/** Turns the sun that everything in the picture stands in; a picture of which nothing was known gets one. */
export const turnSun =
  (to: Partial<LightDirection>): Change =>
  (draft) => {
    const { space } = draft;
    if (!space) return;
    const { light } = space;
    if (!light.sun) {
      const { azimuth, elevation, share } = NEW_SUN;
      // the ground stays as light as it is
      const up = Math.sin((elevation * Math.PI) / 180);
      const [r, g, b] = light.sky;
      light.sun = { azimuth, elevation, colour: [(r * share) / up, (g * share) / up, (b * share) / up] };
      light.sky = [r * (1 - share), g * (1 - share), b * (1 - share)];
    }
    Object.assign(light.sun, to);
    lit(draft);
  };

/** Takes the sun away: what it gave the ground comes from all of the sky. */
export const coverSun: Change = (draft) => {
  const { light } = draft.space ?? {};
  if (!light?.sun) return;
  const { elevation, colour } = light.sun;
  const up = Math.max(0, Math.sin((elevation * Math.PI) / 180));
  const [r, g, b] = light.sky;
  light.sky = [r + up * colour[0], g + up * colour[1], b + up * colour[2]];
  delete light.sun;
};

/** Gives everything in the picture a light. */
export const setLight =
  (light: Partial<LightRig>): Change =>
  (draft) => {
    if (!draft.space) return;
    Object.assign(draft.space.light, structuredClone(light));
    lit(draft);
  };

/** Once something is known of the picture's light, plates that stood in none take it and cast shadows. */
function lit(draft: Draft<Project>): void {
  if (!draft.space?.unlit) return;
  delete draft.space.unlit;
  for (const { id } of allLayers(draft.layers)) {
    const layer = layerOf(draft, id);
    if (!layer?.stand || layer.stand.relight > 0 || layer.stand.shadow > 0) continue;
    Object.assign(layer.stand, { relight: RELIT, shadow: 1 });
    layer.edits = layer.edits.filter((e) => e.id !== lightened(id));
  }
}

/** The air between the camera and what is far; none when left out. */
export const setAir =
  (air: Air | undefined): Change =>
  (draft) => {
    if (!draft.space) return;
    if (air) draft.space.air = structuredClone(air) as typeof draft.space.air;
    else delete draft.space.air;
  };
