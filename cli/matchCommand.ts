import { isCancelled, type WorkerPool } from '@/engine/workerPool';
import { type LoadedFrame, loadFrame } from './loadFrames';
import { progress } from './progress';
import { type MatchCommand } from './readArguments';
import { whiteOf, writeOutput } from './writeOutput';
import { stopwatch, writeReport } from './writeReport';

/** Makes a picture look like another, and reports how near it came. */
export async function matchCommand(pool: WorkerPool, command: MatchCommand): Promise<void> {
  const { picture, reference, out, report: reportFile, strength, samePlace } = command;
  const watch = stopwatch();
  progress(`reading ${picture} and ${reference}`);
  const [target, wanted] = await Promise.all([loadFrame(pool, picture), loadFrame(pool, reference)]);
  watch.lap('decode');
  progress('matching');
  const white = whiteOf(out);
  const laidOver = await fitted(pool, target, wanted);
  watch.lap('fit');
  const { image, report } = await pool.run((tasks) =>
    tasks.match(target.levels[0], wanted.levels[0], {
      ...{ strength, white, laidOver },
      relation: samePlace ? 'place' : 'other',
    }),
  );
  watch.lap('match');
  const { facts } = target;
  await writeOutput(pool, image, out, { facts, title: picture, disclosed: false });
  watch.lap('encode');
  const output = { file: out, width: image.width, height: image.height };
  await writeReport(reportFile, () => ({ ...report, strength, output }), watch);
  progress(`wrote ${out}`);
}

/** px that a fit may be off, so that the same colours lie on each other */
const GOOD_FIT = 2;

/** Pixel of the target → pixel of the reference, where both show the same thing; undefined where they do not. */
async function fitted(pool: WorkerPool, target: LoadedFrame, reference: LoadedFrame) {
  const [a, b] = [target.levels[0], reference.levels[0]];
  if (await pool.run((tasks) => tasks.isSamePlace(a, b))) return undefined;
  const registration = await pool
    .run((tasks) => tasks.register(a, b, { stops: 0, motion: 'auto' }))
    .catch((thrown: unknown) => {
      if (isCancelled(thrown)) throw thrown;
      // what cannot be fitted is matched by what both have in common
      return undefined;
    });
  return registration?.fitted && registration.residual.worst < GOOD_FIT ? registration.matrix : undefined;
}
