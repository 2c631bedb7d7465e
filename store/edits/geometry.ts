import { type Rectangle } from '@/core/raster/raster';
import { type Geometry } from '@/core/recipe/project';
import { type Change } from './drafts';

export const rename =
  (title: string): Change =>
  (draft) => {
    draft.title = title;
  };

export const setGeometry =
  (change: Partial<Geometry>): Change =>
  (draft) => {
    Object.assign(draft.geometry, change);
    if ('crop' in change && change.crop === undefined) delete draft.geometry.crop;
  };

export const setPrintRegion =
  (region?: Rectangle): Change =>
  (draft) => {
    if (region) draft.printRegion = region;
    else delete draft.printRegion;
  };

const MOST_WATCHED = 6;

/** Pins a place; the oldest of seven gives way. */
export const addWatchPoint =
  (id: string, x: number, y: number): Change =>
  (draft) => {
    draft.watchPoints.push({ id, x, y });
    if (draft.watchPoints.length > MOST_WATCHED) draft.watchPoints.shift();
  };

export const removeWatchPoint =
  (id: string): Change =>
  (draft) => {
    draft.watchPoints = draft.watchPoints.filter((p) => p.id !== id);
  };
