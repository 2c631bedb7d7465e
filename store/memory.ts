import { allLayers } from '@/core/layers/layer';
import { isAway, putAway, STAYING } from '@/core/raster/awayPixels';
import { type Frame, type Project } from '@/core/recipe/project';
import { plates } from '@/core/recipe/setFrames';
import { decodeAway, decodeFile, type FileBytes } from '@/engine/decodeFile';
import { type DecodedFrame, type FrameReadings } from '@/engine/tasks';
import { turnsOf } from '@/engine/turns';
import { type RunOptions, type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type MemoryBudget } from './benchState';

/** For a browser tab with three gigabytes. */
export const TAB_BUDGET: MemoryBudget = { beside: 400e6, held: 1.3e9, staying: STAYING, rows: 0.5e9 };

/** Memory of a decoded frame with its levels, bytes. */
export function pixelBytes({ levels }: Pick<DecodedFrame, 'levels'>): number {
  return levels.reduce((sum, l) => sum + l.data.byteLength + (l.alpha?.byteLength ?? 0), 0);
}

/** What a frame takes with all its levels, bytes. */
const wholeBytes = ({ width, height, depth }: Frame): number => ((width * height * 3 * depth) / 8) * (4 / 3);

/** Whether the frames of a project are more than may be held whole. */
export function isCrowded({ frames }: Pick<Project, 'frames'>, { held }: MemoryBudget): boolean {
  return frames.reduce((sum, f) => sum + wholeBytes(f), 0) > held;
}

/** The frames that stay whole in a crowded project: the one looked at, references, what is laid as a layer or is a set by itself. */
export function heldFrames({
  history,
  session,
}: Pick<BenchState, 'history' | 'session'>): ReadonlySet<string> {
  const { project } = history;
  const ids = new Set<string>(plates(project).map((f) => f.id));
  if (session.frame) ids.add(session.frame);
  for (const set of project.sets) {
    if (set.reference) ids.add(set.reference);
    if (set.frames.length === 1) ids.add(set.frames[0]);
  }
  for (const layer of allLayers(project.layers))
    if (layer.kind === 'picture' && layer.source.kind === 'frame') ids.add(layer.source.frame);
  return new Set(project.frames.filter((f) => ids.has(f.id)).map((f) => f.hash));
}

/** A frame without its largest levels; a cut-out is left as it is. */
export function frameAway(frame: DecodedFrame, { staying }: MemoryBudget): DecodedFrame {
  const { levels, hash } = frame;
  if (isAway(levels) || levels[0].alpha !== undefined) return frame;
  return { ...frame, levels: putAway(levels, hash, staying) };
}

/** A decoded frame, and what measures it. */
export interface TakenFrame {
  readonly frame: DecodedFrame;
  readonly readings: () => Promise<FrameReadings>;
}

/**
 * Decodes files of a drop: whole, unless all of them together are more than may be held.
 * @param count how many there will be
 * @param before bytes that are held already
 */
export function frameTaker(pool: WorkerPool, budget: MemoryBudget, count: number, before = 0) {
  let [held, each] = [before, 0];
  // what the first ones take tells of the others
  const turns = turnsOf(pool.size);
  const decode = async (
    file: string,
    bytes: FileBytes,
    options: Pick<RunOptions, 'signal'>,
  ): Promise<TakenFrame> => {
    if (each > 0 && Math.max(held + each, before + count * each) > budget.held) {
      const { readings, ...frame } = await decodeAway(pool, file, bytes, budget.staying, options);
      held += pixelBytes(frame);
      return { frame, readings: () => Promise.resolve(readings) };
    }
    const frame = await decodeFile(pool, file, bytes, options);
    each = Math.max(each, pixelBytes(frame));
    held += pixelBytes(frame);
    return { frame, readings: () => pool.run((tasks) => tasks.readings(frame.levels[0]), options) };
  };
  return async (
    file: string,
    bytes: FileBytes,
    options: Pick<RunOptions, 'signal'> = {},
  ): Promise<TakenFrame> => {
    const leave = await turns.enter();
    return decode(file, bytes, options).finally(leave);
  };
}
