import { type Place } from '../layers/place';
import { type EncodedImage } from '../raster/encodedImage';
import { type GroundFacts, type KnownLight } from './facts';
import { horizonOf } from '../proof/measure/horizon';
import { halveImage } from '../raster/halveImage';
import { lumaOf } from '../raster/lumaOf';
import { dot, type GroundCamera, groundView, rollOf } from './groundView';
import { horizonAt } from './horizonAt';
import { cameraOfPicture } from './lines/cameraOfPicture';
import { type LightColour, type LightRig } from './light';
import { outlineOf } from './outline';
import { ENOUGH, plateLight } from './plateLight';
import { type Space, type Stand } from './space';
import { groundColour, halfWay } from './surroundings';

/** What is asked of a plate: where its foot comes to stand, pixel of the picture, and how large it is. */
export interface Wish {
  readonly foot: readonly [number, number];
  /** pixel of the plate; the middle of its lowest part when left out */
  readonly plateFoot?: readonly [number, number];
  /** from its foot to its top: pixels of the picture, or metres */
  readonly height: { readonly px: number } | { readonly metres: number };
}

/** How something came to be known, and how sure it is, 0…1. */
export interface Told {
  readonly how: 'given' | 'estimated' | 'assumed';
  readonly sure: number;
  readonly why?: string;
}

/** A plate made to belong: the changes of a recipe, and how each fact of them came about. */
export interface Belonging {
  readonly space: Space;
  readonly stand: Stand;
  readonly place: Place;
  /** by how much it is made lighter where no light is known, stops */
  readonly stops?: number;
  readonly heightPx: number;
  readonly metres: number;
  readonly distance: number;
  readonly told: Readonly<Record<string, Told>>;
}

const GIVEN: Told = { how: 'given', sure: 1 };

/** metres from the ground to the eye of somebody who stands (common practice) */
const EYE = 1.6;
/** focal length over the long edge of a moderate wide angle (from memory: 36 mm on 36 mm) */
const FOCAL = 1;
/** share of the picture's height by which a horizon lies above the foot where nothing else is known */
const ABOVE = 0.25;
/** what a horizon told by lines may be off, over the picture's height, and a focal length, over itself */
const MOST_OFF = 0.1;
const MOST_OFF_CROPPED = 0.04;
const MOST_FOCAL_OFF = 0.15;
/** share of the width along which a level line must run to be taken for the horizon, and degrees that it may lean */
const LONG_LINE = 0.6;
const MOST_TILT = 3;
/** long edge at which it is looked for, pixels */
const LOOKED_AT = 1200;
const BY_LINES = 'where the picture’s upright and level lines meet';
/** light of a plate so small that nothing can be told of it */
const WHITE: LightColour = [1, 1, 1];
/** how far a plate is relit, by how its own light is known: half where it is only assumed */
const RELIT = { given: 1, estimated: 0.75, assumed: 0.5 } as const;
/** share of a sun that comes back from a clear sky, and from the ground */
const SKY_OF_SUN = 0.25;

/**
 * Makes a plate belong: where it stands, in which light, behind which air, from facts where they are given and from the picture where not.
 * @param plateLevels the plate and its halvings
 * @returns undefined where nothing of the plate is there, or its foot lies above the horizon
 */
export function belong(
  picture: EncodedImage,
  plateLevels: readonly EncodedImage[],
  wish: Wish,
  facts: GroundFacts,
): Belonging | undefined {
  const [plate] = plateLevels;
  const outline = outlineOf(plate);
  if (!outline) return undefined;
  const told: Record<string, Told> = {};
  const foot = wish.plateFoot ?? outline.foot;
  told.plateFoot = wish.plateFoot
    ? GIVEN
    : { how: 'estimated', sure: 0.8, why: 'the middle of its lowest part' };
  const camera = cameraOf(picture, wish.foot, facts, told);
  const view = groundView(camera);
  const at = view.groundAt(...wish.foot);
  if (!at) return undefined;
  const depth = dot(at, view.axes[2]);
  const perPixel = depth / camera.focal;
  const heightPx = 'px' in wish.height ? wish.height.px : wish.height.metres / perPixel;
  const pixels = heightPx / Math.max(1, foot[1] - (outline.top - 0.5));
  const placed = placeOf(picture, plate, wish.foot, foot, pixels, camera.roll ?? 0);
  const ground = groundColour(picture, wish.foot, heightPx, horizonAt(camera, wish.foot[0]));
  const light = facts.light && lightOf(facts.light, ground, told, 'light');
  const own = plateLightOf(facts, plateLevels, told);
  const isLit = light !== undefined;
  if (!isLit)
    told.light = {
      how: 'assumed',
      sure: 0,
      why: 'no light was given: the plate comes half the way to the lightness of its surroundings, and casts no shadow',
    };
  const long = Math.max(picture.width, picture.height);
  const plateLong = Math.max(plate.width, plate.height);
  const [cx, cy] = camera.principal;
  return {
    space: {
      camera: {
        focal: camera.focal / long,
        principal: [cx / long, cy / long],
        horizon: camera.horizon / long,
        ...(camera.roll === undefined ? {} : { roll: camera.roll }),
        height: camera.height,
      },
      ...(light ? { light } : { light: evenLight(ground), unlit: true }),
      ...(facts.air ? { air: facts.air } : {}),
    },
    stand: {
      foot: [foot[0] / plateLong, foot[1] / plateLong],
      top: (outline.top - 0.5) / plateLong,
      light: own,
      water: facts.water ?? false,
      relight: isLit ? RELIT[told.plateLight.how] : 0,
      shadow: isLit ? 1 : 0,
      ...(facts.distance === undefined ? {} : { distance: facts.distance }),
    },
    place: placed,
    ...(isLit ? {} : { stops: halfWay(picture, plate, wish.foot, heightPx) }),
    heightPx,
    metres: heightPx * perPixel,
    distance: facts.distance ?? Math.hypot(...at),
    told,
  };
}

/** light that ground throws back on the whole, where nothing is known of it: mid grey (common practice) */
const ALBEDO = 0.18;

/** The light of which only is known how light the ground is that it falls on: from everywhere above. */
const evenLight = (ground: LightColour): LightRig => ({
  sky: scaled(ground, 1 / ALBEDO),
  bounce: scaled(ground, 0.5),
  lamps: [],
});

function cameraOf(
  picture: EncodedImage,
  foot: readonly [number, number],
  facts: GroundFacts,
  told: Record<string, Told>,
): GroundCamera {
  const { width, height } = picture;
  const principal = facts.principal ?? ([(width - 1) / 2, (height - 1) / 2] as const);
  told.principal = facts.principal ? GIVEN : { how: 'assumed', sure: 0.7, why: 'the middle of the picture' };
  const { horizon, focal, roll } = heldOf(picture, foot, principal, facts, told);
  const found =
    facts.cameraHeight ?? heightFrom(facts.distance, { focal, principal, horizon, roll, height: 1 }, foot);
  told.cameraHeight = facts.cameraHeight
    ? GIVEN
    : found !== undefined
      ? { how: 'estimated', sure: 0.8, why: 'by the distance and the horizon' }
      : { how: 'assumed', sure: 0.3, why: 'the eye of somebody who stands' };
  told.distance =
    facts.distance === undefined
      ? { how: 'estimated', sure: Math.min(told.horizonRow.sure, told.cameraHeight.sure), why: 'by the foot' }
      : GIVEN;
  return { focal, principal, horizon, height: found ?? EYE, ...(roll === 0 ? {} : { roll }) };
}

/** Where the horizon of a picture lies, and by what focal length it is seen: as given, by its lines, by its longest level line, or as people hold cameras. */
function heldOf(
  picture: EncodedImage,
  foot: readonly [number, number],
  principal: readonly [number, number],
  { focalPx, horizonRow, roll: givenRoll, principal: principalIsTold }: GroundFacts,
  told: Record<string, Told>,
): { readonly horizon: number; readonly focal: number; readonly roll: number } {
  const { width, height } = picture;
  // without anything of its camera it may be a part of a larger picture
  const cropped = focalPx === undefined && !principalIsTold;
  const lines =
    horizonRow === undefined
      ? cameraOfPicture(picture, {
          principal,
          cropped,
          ...(focalPx === undefined ? {} : { focal: focalPx }),
        })
      : undefined;
  const shareOff = lines ? lines.horizon.spread / height : Infinity;
  const byLines =
    lines &&
    shareOff < (cropped ? MOST_OFF_CROPPED : MOST_OFF) &&
    horizonAt({ horizon: lines.horizon.value, roll: lines.roll.value, principal }, foot[0]) < foot[1]
      ? lines
      : undefined;
  const focalIsTold = byLines && byLines.focal.spread < MOST_FOCAL_OFF * byLines.focal.value;
  const focal = focalPx ?? (focalIsTold ? byLines.focal.value : FOCAL * Math.max(width, height));
  told.focalPx =
    focalPx !== undefined
      ? GIVEN
      : focalIsTold
        ? { how: 'estimated', sure: 1 - byLines.focal.spread / byLines.focal.value, why: BY_LINES }
        : { how: 'assumed', sure: 0.3, why: 'as long as the picture’s long edge' };
  if (horizonRow !== undefined) {
    told.horizonRow = GIVEN;
    return { horizon: horizonRow, focal, roll: givenRoll ?? 0 };
  }
  if (byLines) {
    told.horizonRow = { how: 'estimated', sure: Math.max(0.3, 1 - shareOff / MOST_OFF), why: BY_LINES };
    const { value, spread } = byLines.roll;
    return {
      horizon: byLines.horizon.value,
      focal,
      // what lies within its own uncertainty is held level
      roll: givenRoll ?? (Math.abs(value) > spread ? value : 0),
    };
  }
  const line = levelLine(picture);
  if (line && line.y < foot[1]) {
    told.horizonRow = { how: 'estimated', sure: 0.5, why: 'the longest level line of the picture' };
    return { horizon: line.y, focal, roll: givenRoll ?? line.tilt };
  }
  told.horizonRow = {
    how: 'assumed',
    sure: 0.2,
    why: 'the middle of the picture, or a quarter of it above the foot',
  };
  return { horizon: Math.min(principal[1], foot[1] - ABOVE * height), focal, roll: givenRoll ?? 0 };
}

/** A level line so long that it is likely the horizon, pixels of the picture; its height in the middle. */
function levelLine(picture: EncodedImage): { readonly y: number; readonly tilt: number } | undefined {
  let image = picture;
  while (Math.max(image.width, image.height) > LOOKED_AT) image = halveImage(image);
  const line = horizonOf(lumaOf(image), image.width, image.height);
  if (!line || line.length < LONG_LINE || Math.abs(line.tilt) > MOST_TILT) return undefined;
  return { y: ((line.y + 0.5) * picture.width) / image.width - 0.5, tilt: line.tilt };
}

/** The height of a camera that sees a foot at a distance. */
function heightFrom(
  distance: number | undefined,
  camera: GroundCamera,
  foot: readonly [number, number],
): number | undefined {
  if (distance === undefined) return undefined;
  const ray = groundView(camera).ray(...foot);
  return ray[1] < 0 ? (distance * -ray[1]) / Math.hypot(...ray) : undefined;
}

const scaled = ([r, g, b]: LightColour, by: number): LightColour => [by * r, by * g, by * b];
const greyOf = ([r, g, b]: LightColour): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** A light with what is left out of it. */
function lightOf(
  { sun, sky, bounce, lamps = [] }: KnownLight,
  ground: LightColour,
  told: Record<string, Told>,
  name: string,
): LightRig {
  told[name] = GIVEN;
  const fromSun = sun ? SKY_OF_SUN * greyOf(sun.colour) : 0;
  if (!sky) told[`${name}.sky`] = { how: 'assumed', sure: 0.3, why: 'a quarter of the sun' };
  if (!bounce) told[`${name}.bounce`] = { how: 'estimated', sure: 0.6, why: 'the ground round the foot' };
  return {
    ...(sun ? { sun } : {}),
    sky: sky ?? [fromSun, fromSun, fromSun],
    bounce: bounce ?? ground,
    lamps,
  };
}

function plateLightOf(
  { plateLight: known }: GroundFacts,
  levels: readonly EncodedImage[],
  told: Record<string, Told>,
): LightRig {
  if (known) {
    const sky = known.sky ?? (known.sun ? scaled(known.sun.colour, SKY_OF_SUN) : [0, 0, 0]);
    return lightOf({ ...known, sky }, scaled(sky, 0.2), told, 'plateLight');
  }
  const shaded = plateLight(levels);
  if (shaded && shaded.contrast >= ENOUGH) {
    told.plateLight = { how: 'estimated', sure: 0.6, why: 'its shading over its silhouette' };
    return shaded.rig;
  }
  told.plateLight = {
    ...{ how: 'assumed', sure: 0.2 },
    why: 'even light from everywhere, by how bright the plate is on the whole',
  };
  return shaded?.even ?? { sky: WHITE, bounce: WHITE, lamps: [] };
}

/** Where a plate lies that stands upright with its foot at a place. @param pixels of the picture for one of the plate @param roll of the camera, degrees */
function placeOf(
  picture: EncodedImage,
  plate: EncodedImage,
  [x, y]: readonly [number, number],
  [footX, footY]: readonly [number, number],
  pixels: number,
  roll: number,
): Place {
  const long = Math.max(picture.width, picture.height);
  // from the foot to the plate's middle
  const [right, down] = [(plate.width - 1) / 2 - footX, (plate.height - 1) / 2 - footY];
  const [sine, cosine] = rollOf({ roll });
  const [dx, dy] = [right * cosine - down * sine, right * sine + down * cosine];
  return {
    x: (x + pixels * dx + 0.5) / long,
    y: (y + pixels * dy + 0.5) / long,
    size: (pixels * Math.max(plate.width, plate.height)) / long,
    turn: roll,
    mirrored: false,
  };
}
