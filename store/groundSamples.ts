import { airBetween } from '@/core/ground/airBetween';
import { cameraOn } from '@/core/ground/cameraOn';
import { type GroundCamera, groundView } from '@/core/ground/groundView';
import { horizonAt } from '@/core/ground/horizonAt';
import { type LightColour } from '@/core/ground/light';
import { litAndShaded } from '@/core/ground/litAndShaded';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { srgbToLinear } from '@/core/raster/srgb';
import { type Rectangle } from '@/core/raster/raster';
import { type Bench } from './benchState';
import { drawnGraph } from './buildScene';
import { setAir, setLight } from './edits/stand';

type Pixel = readonly [x: number, y: number];

/** half the side of the patch that a place is read from, parts of the picture's long edge */
const PATCH = 1 / 500;
/** the strip above the horizon that the air is read from: how far above and how high, and how far to the sides */
const STRIP = { from: 0.001, to: 0.008, across: 0.08 } as const;
/** elevation of a sun that is not known yet, degrees */
const UNKNOWN_UP = 35;

const NOT_MADE = 'The picture is not made yet. Wait until it is shown, then press the places again.';

/** The picture without its layers, to be read from. */
function baseOf(bench: Bench) {
  const { built } = bench.shown(bench.store.getState());
  const node = built?.compiled.base;
  const drawn = built && node ? drawnGraph(built, [node]) : undefined;
  return drawn && node ? { drawn, node } : undefined;
}

async function lightAt(bench: Bench, [x, y]: Pixel, long: number): Promise<LightColour | undefined> {
  const base = baseOf(bench);
  if (!base) return undefined;
  const half = Math.max(2, Math.round(PATCH * long));
  const area = {
    x: Math.round(x) - half,
    y: Math.round(y) - half,
    width: 2 * half + 1,
    height: 2 * half + 1,
  };
  const codes = await bench.pool.run((tasks) => tasks.sample(base.drawn, base.node, area));
  const [r, g, b] = codes.map((v) => srgbToLinear(v / 255));
  return [r, g, b];
}

const TEXT = {
  light: 'Light from a pair of places',
  noShade:
    'The second place is not darker than the first in every channel: it is no shade of the same ground. Press the one in the sun first.',
  air: 'Air from a near and a far place',
  noAir:
    'The air cannot be told from these: the farther place must be paler, and both must lie on the ground. Take two places of one material, far apart.',
} as const;

/** Sun and sky from a place in the sun and one in the shade of the same ground. */
export async function lightFromPlaces(bench: Bench, lit: Pixel, shaded: Pixel): Promise<void> {
  const { project } = bench.store.getState().history;
  const grid = pictureGrid(project);
  if (!project.space || !grid) return;
  const long = Math.max(grid.width, grid.height);
  const [bright, dark] = [await lightAt(bench, lit, long), await lightAt(bench, shaded, long)];
  if (!bright || !dark) return bench.actions.report(NOT_MADE);
  const { azimuth = 0, elevation = UNKNOWN_UP } = project.space.light.sun ?? {};
  const found = litAndShaded(bright, dark, { azimuth, elevation });
  if (!found) return bench.actions.report(TEXT.noShade);
  const { sun, sky, bounce } = found;
  bench.actions.edit(TEXT.light, setLight({ sun: { azimuth, elevation, colour: sun }, sky, bounce }));
}

/** How thick the air is, from a near and a far place of the same material on the ground; its colour from above the horizon beyond the far one. */
export async function airFromPlaces(bench: Bench, near: Pixel, far: Pixel): Promise<void> {
  const { project } = bench.store.getState().history;
  const grid = pictureGrid(project);
  if (!project.space || !grid) return;
  const long = Math.max(grid.width, grid.height);
  const own = cameraOn(project.space.camera, grid);
  const view = groundView(own);
  const away = (p: Pixel): number | undefined => {
    const at = view.groundAt(...p);
    return at && Math.hypot(...at);
  };
  const [p, q] = [away(near), away(far)];
  if (p === undefined || q === undefined) return bench.actions.report(TEXT.noAir);
  const [a, b] = [await lightAt(bench, near, long), await lightAt(bench, far, long)];
  const base = baseOf(bench);
  if (!a || !b || !base) return bench.actions.report(NOT_MADE);
  const area = stripOver(q >= p ? far : near, own, long, grid);
  const colour = await bench.pool.run((tasks) => tasks.airColour(base.drawn, base.node, area));
  const air = airBetween(colour, { colour: a, distance: p }, { colour: b, distance: q });
  if (!air) return bench.actions.report(TEXT.noAir);
  bench.actions.edit(TEXT.air, setAir(air));
}

/** The strip of the picture just above the horizon, over a place. */
function stripOver(
  [x]: Pixel,
  camera: GroundCamera,
  long: number,
  { width }: { readonly width: number },
): Rectangle {
  const horizon = horizonAt(camera, x);
  const left = Math.max(0, Math.round(x - STRIP.across * long));
  const right = Math.min(width, Math.round(x + STRIP.across * long));
  const top = Math.max(0, Math.round(horizon - STRIP.to * long));
  const bottom = Math.max(top + 1, Math.round(horizon - STRIP.from * long));
  return { x: left, y: top, width: Math.max(1, right - left), height: bottom - top };
}
