import { readFile } from 'node:fs/promises';
import { parseDabs } from '@/core/cutout/parseDabs';
import { Problem } from '@/core/proof/problem';
import { type WorkerPool } from '@/engine/workerPool';
import { loadFrame } from './loadFrames';
import { type CutCommand } from './readArguments';
import { writeBytes } from './writeOutput';

const progress = (text: string): void => void process.stderr.write(`${text}\n`);

/** Cuts out what dabs point at, as a PNG with opacity. */
export async function cutCommand(pool: WorkerPool, command: CutCommand): Promise<void> {
  const { picture, out, report } = command;
  const start = performance.now();
  const text = await readFile(command.dabs, 'utf8').catch(() => {
    throw new Problem(`“${command.dabs}” cannot be opened. Check the name and whether it may be read.`);
  });
  const dabs = parseDabs(text, command.dabs);
  progress(`reading ${picture}`);
  const { levels } = await loadFrame(pool, picture);
  const decoded = performance.now();
  progress('cutting out');
  const { png, width, height, covered, undecided } = await pool.run((tasks) => tasks.cutOut(levels[0], dabs));
  if (covered === 0)
    throw new Problem(
      `Nothing of “${picture}” lies under the dabs that say “this”. Check that they are in pixels of the upright picture.`,
    );
  await writeBytes(out, png);
  const end = performance.now();
  if (report) {
    const written = {
      output: { file: out, width, height },
      covered,
      undecided,
      timesMs: { decode: decoded - start, cut: end - decoded, total: end - start },
      peakMb: process.resourceUsage().maxRSS / 1024,
    };
    await writeBytes(report, `${JSON.stringify(written, undefined, 2)}\n`);
  }
  progress(`wrote ${out}`);
}
