import { readFile } from 'node:fs/promises';
import { parseDabs } from '@/core/cutout/parseDabs';
import { Problem } from '@/core/proof/problem';
import { type WorkerPool } from '@/engine/workerPool';
import { loadFrame } from './loadFrames';
import { progress } from './progress';
import { type CutCommand } from './readArguments';
import { writeBytes } from './writeOutput';
import { stopwatch, writeReport } from './writeReport';

/** Cuts out what dabs point at, as a PNG with opacity. */
export async function cutCommand(pool: WorkerPool, command: CutCommand): Promise<void> {
  const { picture, out, report } = command;
  const watch = stopwatch();
  const text = await readFile(command.dabs, 'utf8').catch(() => {
    throw new Problem(`“${command.dabs}” cannot be opened. Check the name and whether it may be read.`);
  });
  const dabs = parseDabs(text, command.dabs);
  progress(`reading ${picture}`);
  const { levels } = await loadFrame(pool, picture);
  watch.lap('decode');
  progress('cutting out');
  const { png, width, height, covered, undecided } = await pool.run((tasks) => tasks.cutOut(levels[0], dabs));
  if (covered === 0)
    throw new Problem(
      `Nothing of “${picture}” lies under the dabs that say “this”. Check that they are in pixels of the upright picture.`,
    );
  await writeBytes(out, png);
  watch.lap('cut');
  await writeReport(report, () => ({ output: { file: out, width, height }, covered, undecided }), watch);
  progress(`wrote ${out}`);
}
