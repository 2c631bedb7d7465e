import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type MatchSettings, type PlacedMark } from '@/core/edits/match/matchSettings';
import { findEdit } from '@/core/edits/ranked';
import { type Code } from '@/core/match/matchMark';
import { isAway } from '@/core/raster/awayPixels';
import { straightenOf } from '@/core/recipe/cropOf';
import { transform } from '@/core/raster/matrix3';
import { type Bench } from './benchState';
import { drawnGraph } from './buildScene';
import { editsAt, type EditOwner, setKindOfEdit } from './edits/list';
import { matchedTo } from './matchSides';
import { matchTo } from './matchTo';
import { nodeForEdit } from './nodeBefore';

/** half the side of the place that a mark looks at, pixels */
const PATCH = 4;

const squareAt = (x: number, y: number) => ({
  x: Math.round(x) - PATCH,
  y: Math.round(y) - PATCH,
  width: 2 * PATCH + 1,
  height: 2 * PATCH + 1,
});

const asCode = (codes: readonly number[]): Code => {
  const [r, g, b] = codes.map((v) => Math.min(1, Math.max(0, v / 255)));
  return [r, g, b];
};

/** The match of something, if there is one. */
export const matchAt = (bench: Bench, at: EditOwner): MatchSettings | undefined =>
  findEdit(editsAt(bench.store.getState().history.project, at), 'match')?.settings;

/**
 * The colour of a place of the picture: as the match finds it, or as it is shown beneath all that is changed in the whole.
 * @param x of the picture, full-size pixels
 * @returns undefined where it is not made yet
 */
export async function codeOfPlace(
  bench: Bench,
  at: EditOwner,
  x: number,
  y: number,
  which: 'found' | 'shown',
): Promise<Code | undefined> {
  const state = bench.store.getState();
  const { built } = bench.shown(state);
  if (!built) return undefined;
  const { compiled } = built;
  const node =
    which === 'found' ? nodeForEdit(state.history.project, compiled, at, 'match') : compiled.result;
  const drawn = drawnGraph(built, [node]);
  if (!drawn) return undefined;
  const codes = await bench.pool.run((tasks) => tasks.sample(drawn, node, squareAt(x, y)));
  return codes.every(Number.isFinite) ? asCode(codes) : undefined;
}

/** The colour of a place of a frame as it was shot; undefined where its pixels are away. @param x of the frame, full-size pixels */
export function codeOfFrame(bench: Bench, frame: string, x: number, y: number): Code | undefined {
  const { history, decoded } = bench.store.getState();
  const hash = history.project.frames.find((f) => f.id === frame)?.hash ?? '';
  const levels = decoded[hash]?.levels;
  if (!levels || isAway(levels)) return undefined;
  const [{ width, height, data, white }] = levels;
  const square = squareAt(x, y);
  const sums = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, square.y); v < Math.min(height, square.y + square.height); v++)
    for (let u = Math.max(0, square.x); u < Math.min(width, square.x + square.width); u++, count++)
      for (let c = 0; c < 3; c++) sums[c] += data[3 * (v * width + u) + c];
  return count > 0 ? asCode(sums.map((s) => (255 * s) / count / white)) : undefined;
}

/** A place that was pressed on the straightened picture, on the picture. */
export function unstraightened(bench: Bench, x: number, y: number): readonly [number, number] {
  return transform(straightenOf(bench.store.getState().history.project), x, y);
}

/**
 * Gives a match its marks and solves it anew: against what it is matched to, or by the marks alone.
 * @param id of a new edit
 */
export async function setMarks(
  bench: Bench,
  at: EditOwner,
  marks: readonly PlacedMark[],
  id: string,
  label: string,
): Promise<void> {
  const gesture = `marks ${crypto.randomUUID()}`;
  // the mark is there at once: one that is set while this is solved comes to it, and is not taken for it
  bench.actions.edit(label, setKindOfEdit(at, 'match', { marks }, id), gesture);
  const known = matchAt(bench, at);
  const like = matchedTo(bench.store.getState().history.project, at);
  if (like.length > 0)
    return matchTo(bench, at, like, id, { samePlace: known?.scores?.samePlace ?? false, marks, gesture });
  const { matrix, curves } = EDIT_KINDS.match.plain;
  const map =
    marks.length > 0 ? await bench.pool.run((tasks) => tasks.solveMarks(marks)) : { matrix, curves };
  // another mark that came meanwhile is solved by itself, later
  if (matchAt(bench, at)?.marks !== known?.marks) return;
  bench.actions.edit(
    label,
    setKindOfEdit(at, 'match', { matrix: map.matrix, curves: map.curves.map((c) => [...c]) }, id),
    gesture,
  );
}
