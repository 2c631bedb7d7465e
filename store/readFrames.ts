import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Frame } from '@/core/recipe/project';
import { bendOf } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { decodeInto } from '@/engine/decodeFile';
import { type Preparation } from '@/engine/tasks';
import { type WorkerPool } from '@/engine/workerPool';
import { scopesOf } from './activeSet';
import { type BenchState } from './benchState';
import { originalOf } from './keeping/originalOf';
import { type Originals } from './keeping/originals';
import { preparationOf } from './stages/prepareStage';

/** Which frame a node stands for, and what is done to it: as it was shot, or as its set prepares it. */
function sourceOf(state: BenchState, node: string): { frame: Frame; preparation: Preparation } | undefined {
  const { project } = state.history;
  const shot = project.frames.find((f) => f.hash === node);
  if (shot) return { frame: shot, preparation: {} };
  for (const scope of scopesOf(project))
    for (const frame of scope.frames) {
      const { prepared, drawn } = setGraph(scope);
      if (prepared.get(frame.id) !== node && drawn.get(frame.id) !== node) continue;
      const bend = drawn.get(frame.id) === node ? bendOf(scope, frame) : undefined;
      return { frame, preparation: { ...preparationOf(state, scope, frame), ...(bend ? { bend } : {}) } };
    }
  return undefined;
}

/**
 * Reads pixels of a frame again, as it was shot, as its set prepares it, or bent.
 * @param into the picture, or those of its rows that are wanted
 * @throws Problem that names the frame when its original is gone
 */
export async function readFrame(
  state: BenchState,
  originals: Originals,
  pool: WorkerPool,
  node: string,
  into: EncodedImage,
): Promise<void> {
  const source = sourceOf(state, node);
  if (!source)
    throw new Problem('A frame that a step asked for is not part of the project any more. Try again.');
  const { frame, preparation } = source;
  await decodeInto(pool, frame.file, await originalOf(originals, frame), preparation, into);
}
