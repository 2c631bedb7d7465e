import { evenGains } from '@/core/capture/prepareImage';
import { Problem } from '@/core/proof/problem';
import { isAway } from '@/core/raster/awayPixels';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { setGraph } from '@/core/recipe/setGraph';
import { decodeAgain } from '@/engine/decodeFile';
import { type WorkerPool } from '@/engine/workerPool';
import { scopesOf } from './activeSet';
import { type BenchState } from './bench';
import { type Originals } from './keeping/originals';
import { balanceOf } from './stages/prepareStage';

/**
 * Reads the picture again that stands for a node of frames: a frame as it was shot, by its hash, or as its set prepares it.
 * @throws Problem that names the frame when its original is gone
 */
export async function readFrame(
  state: BenchState,
  originals: Originals,
  pool: WorkerPool,
  node: string,
): Promise<EncodedImage> {
  const { project } = state.history;
  const shot = project.frames.find((f) => f.hash === node);
  if (shot) {
    const held = state.decoded[node]?.levels;
    if (held && !isAway(held)) return held[0];
    const bytes = await originals.load(node);
    if (!bytes)
      throw new Problem(
        `The original of “${shot.file}” is gone from this browser. Drop the file here again.`,
      );
    const { width, height, white, data } = await decodeAgain(pool, shot.file, bytes);
    return { width, height, white, data };
  }
  for (const scope of scopesOf(project))
    for (const frame of scope.frames) {
      if (setGraph(scope).prepared.get(frame.id) !== node) continue;
      const image = await readFrame(state, originals, pool, frame.hash);
      const balance = balanceOf(state, scope, frame);
      const { lens } = scope.set.prepare;
      if (!balance && !lens) return image;
      const [prepared] = await pool.run((tasks) => tasks.prepare(image, balance && evenGains(balance), lens));
      return prepared;
    }
  throw new Problem('A frame that a step asked for is not part of the project any more. Try again.');
}
