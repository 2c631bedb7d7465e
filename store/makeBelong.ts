import { type GroundFacts } from '@/core/ground/facts';
import { type Told } from '@/core/ground/belong';
import { outlineOf } from '@/core/ground/outline';
import { levelAtHand } from '@/core/raster/awayPixels';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { placeMatrix } from '@/core/layers/place';
import { invert, levelToFull, transform } from '@/core/raster/matrix3';
import { type Space } from '@/core/ground/space';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { type Bench } from './benchState';
import { standPlate } from './edits/stand';
import { knownFocal, longOf, LOOKED_AT, pictureUnder } from './pictureUnder';
import { platesOnGround } from './standingPlates';

/** What came of it: how each fact came about, or a sentence. */
export type Belonged = { readonly told: Readonly<Record<string, Told>> } | { readonly why: string };

/**
 * Makes a plate belong where it lies: it stands on the ground at its size, takes the picture's light as far as that is known, with its shadow or mirror image, behind its
 * air. What the picture's space says already counts as given.
 */
export async function makeBelong(bench: Bench, id: string): Promise<Belonged> {
  const state = bench.store.getState();
  const { project } = state.history;
  const own = platesOnGround(project).find((p) => p.layer.id === id);
  const picture = pictureUnder(state);
  const levels = own && state.decoded[own.frame.hash]?.levels;
  const { place, stand } = own?.layer ?? {};
  if (!own || !picture || !levels || !place)
    return {
      why: 'The picture is not made yet, or the plate is not read. Wait until it is shown, then try again.',
    };
  const first = levelAtHand(
    levels,
    Math.max(
      0,
      levels.findIndex((l) => Math.max(l.width, l.height) <= LOOKED_AT),
    ),
  );
  const plate = levels.slice(first);
  const outline = outlineOf(plate[0]);
  if (!outline) return { why: `Nothing of ${own.layer.name} is there: it is all transparent.` };
  // pixel of the plate as it is looked at → pixel of the picture as that is
  const back = invert(placeMatrix(place, own.frame, own.grid));
  const toPicture = (x: number, y: number): [number, number] => {
    const full = transform(back, ...transform(levelToFull(first), x, y));
    return transform(invert(levelToFull(picture.level)), ...full);
  };
  const ownFoot: readonly [number, number] = stand
    ? [stand.foot[0] * longOf(plate[0]), stand.foot[1] * longOf(plate[0])]
    : outline.foot;
  const foot = toPicture(...ownFoot);
  const top = toPicture(ownFoot[0], outline.top);
  const wish = {
    foot,
    ...(stand ? { plateFoot: ownFoot } : {}),
    height: { px: Math.max(1, foot[1] - top[1]) },
  };
  const facts = factsOf(project, picture.image, stand?.water ?? false);
  const made = await bench.actions.during(`Making ${own.layer.name} belong`, async (signal) => ({
    belonging: await bench.pool.run((tasks) => tasks.belong(picture.image, plate, wish, facts), { signal }),
  }));
  if (!made) return { why: '' };
  if (!made.belonging)
    return {
      why: `${own.layer.name} cannot stand there: its foot lies above the horizon. Pull it down, or the horizon up.`,
    };
  bench.actions.edit(`Made ${own.layer.name} belong`, standPlate(id, made.belonging));
  return { told: made.belonging.told };
}

/** What the picture's space says already, pixels of the picture as it is looked at. */
function factsOf(project: Project, image: EncodedImage, water: boolean): GroundFacts {
  const { space } = project;
  const long = longOf(image);
  if (space) {
    const { camera, light, air, unlit = false } = space;
    return {
      focalPx: camera.focal * long,
      principal: [camera.principal[0] * long, camera.principal[1] * long],
      horizonRow: camera.horizon * long,
      ...(camera.roll === undefined ? {} : { roll: camera.roll }),
      cameraHeight: camera.height,
      water,
      ...(unlit ? {} : { light }),
      ...(air ? { air } : {}),
    };
  }
  const focal = knownFocal(project);
  return { water, ...(focal === undefined ? {} : { focalPx: focal * long }) };
}

/** metres from the ground to the eye of somebody who stands (common practice) */
const EYE = 1.6;

/** The ground of a picture of which nothing is known but its file: its horizon in the middle, seen by somebody who stands. */
export function firstSpace(project: Project): Space | undefined {
  const grid = pictureGrid(project);
  if (!grid) return undefined;
  const long = Math.max(grid.width, grid.height);
  const middle = [grid.width / 2 / long, grid.height / 2 / long] as const;
  return {
    camera: { focal: knownFocal(project) ?? 1, principal: middle, horizon: middle[1], height: EYE },
    light: { sky: [1, 1, 1], bounce: [0.2, 0.2, 0.2], lamps: [] },
    unlit: true,
  };
}
