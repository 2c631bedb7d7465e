import { type CameraOfPicture } from '@/core/ground/lines/cameraOfPicture';
import { type DrawnLine } from '@/core/ground/lines/cameraFromLines';
import { MOST_SPACE_LINES, type Space, type SpaceLine } from '@/core/ground/space';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Bench } from './benchState';
import { laySpace, setLines } from './edits/stand';
import { firstSpace } from './makeBelong';
import { knownFocal, longOf, pictureUnder } from './pictureUnder';

const TEXT = {
  looking: 'Looking for straight lines',
  laid: 'Laid the ground',
  lines: 'Space by the picture’s lines',
  drew: 'Drew a line of the ground',
  left: 'Took the drawn lines away',
  none: 'Too few straight lines of this picture agree on where its horizon is. Draw two along things that stand, or along edges that run away beside each other.',
  notMade: 'The picture is not made yet. Wait until it is shown, then try again.',
} as const;

/** Lays the ground under a picture: by its straight lines where these tell how the camera was held, with the horizon in the middle where not. */
export async function layGround(bench: Bench): Promise<void> {
  const { project } = bench.store.getState().history;
  const first = firstSpace(project);
  if (!first) return;
  const told = await cameraByLines(bench, [], true);
  bench.actions.edit(TEXT.laid, laySpace(told ? { ...first, ...told } : first));
}

/** Sets the camera by the straight lines that are found in the picture, and by those that were drawn. */
export async function spaceByLines(bench: Bench): Promise<void> {
  const drawn = drawnOf(bench);
  const told = await cameraByLines(bench, drawn);
  if (told) bench.actions.edit(TEXT.lines, setLines(told.lines, told));
}

/** Adds a line that was drawn along something upright, or along an edge that runs away. Two of either tell the camera. */
export async function drawSpaceLine(bench: Bench, line: Omit<SpaceLine, 'drawn'>): Promise<void> {
  const before = bench.store.getState().history.project.space?.lines ?? [];
  const drawn = [...drawnOf(bench), { ...line, drawn: true }];
  const kept = before.filter((l) => !l.drawn);
  if (!['upright', 'level'].some((family) => drawn.filter((l) => l.family === family).length >= 2)) {
    bench.actions.edit(TEXT.drew, setLines([...drawn, ...kept].slice(0, MOST_SPACE_LINES)));
    return;
  }
  const told = await cameraByLines(bench, drawn);
  bench.actions.edit(TEXT.drew, told ? setLines(told.lines, told) : setLines([...drawn, ...kept]));
}

/** Takes the lines away that were drawn. */
export function leaveDrawnLines({ store, actions }: Bench): void {
  const { lines = [] } = store.getState().history.project.space ?? {};
  actions.edit(TEXT.left, setLines(lines.filter((l) => !l.drawn)));
}

const drawnOf = ({ store }: Bench): readonly SpaceLine[] =>
  (store.getState().history.project.space?.lines ?? []).filter((l) => l.drawn);

type ToldByLines = Pick<Space, 'camera'> & Required<Pick<Space, 'spread' | 'lines'>>;

/** @param quiet nobody asked for lines: that there are none is not said */
async function cameraByLines(
  bench: Bench,
  drawn: readonly SpaceLine[],
  quiet = false,
): Promise<ToldByLines | undefined> {
  const state = bench.store.getState();
  const { project } = state.history;
  const picture = pictureUnder(state);
  const space = project.space ?? firstSpace(project);
  if (!picture || !space) {
    if (!quiet) bench.actions.report(TEXT.notMade);
    return undefined;
  }
  const { image } = picture;
  const long = longOf(image);
  const { principal } = space.camera;
  const focal = knownFocal(project);
  const known = {
    principal: [principal[0] * long, principal[1] * long] as const,
    cropped: focal === undefined,
    ...(focal === undefined ? {} : { focal: focal * long }),
    drawn: drawn.map((line) => drawnLine(line, long)),
  };
  const made = await bench.actions.during(TEXT.looking, async (signal) => ({
    told: await bench.pool.run((tasks) => tasks.cameraOfPicture(image, known), { signal }),
  }));
  if (!made) return undefined;
  if (!made.told) {
    if (!quiet) bench.actions.report(TEXT.none);
    return undefined;
  }
  return inFractions(made.told, space, drawn, image);
}

const drawnLine = ({ from, to, family }: SpaceLine, long: number): DrawnLine => ({
  x0: from[0] * long,
  y0: from[1] * long,
  x1: to[0] * long,
  y1: to[1] * long,
  family: family === 'upright' ? 'upright' : 'level',
});

function inFractions(
  { horizon, roll, focal, lines }: CameraOfPicture,
  { camera }: Space,
  drawn: readonly SpaceLine[],
  image: EncodedImage,
): ToldByLines {
  const long = longOf(image);
  const found = lines.map(({ x0, y0, x1, y1, family }): SpaceLine => {
    const [from, to] = [[x0 / long, y0 / long] as const, [x1 / long, y1 / long] as const];
    return { from, to, family };
  });
  return {
    camera: { ...camera, focal: focal.value / long, horizon: horizon.value / long, roll: roll.value },
    spread: { horizon: horizon.spread / long, roll: roll.spread, focal: focal.spread / focal.value },
    lines: [...drawn, ...found].slice(0, MOST_SPACE_LINES),
  };
}
