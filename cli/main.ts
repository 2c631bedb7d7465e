import { Problem, problemSentence } from '@/core/proof/problem';
import { nodePool } from '@/engine/nodePool';
import { cutCommand } from './cutCommand';
import { inspectCommand } from './inspectCommand';
import { matchCommand } from './matchCommand';
import { mergeCommand } from './mergeCommand';
import { placeCommand } from './placeCommand';
import { renderCommand } from './renderCommand';
import { readArguments, USAGE } from './readArguments';

/** Runs one command; returns the exit code. Progress and failures go to standard error. */
export async function main(argv: readonly string[]): Promise<number> {
  if (argv.length === 0 || argv.includes('--help') || argv.includes('-h')) {
    process.stdout.write(`${USAGE}\n`);
    return argv.length === 0 ? 1 : 0;
  }
  const pool = nodePool(new URL('./node.worker.mjs', import.meta.url));
  try {
    const command = readArguments(argv);
    if (command.command === 'inspect') process.stdout.write(`${await inspectCommand(pool, command)}\n`);
    else if (command.command === 'render') await renderCommand(pool, command);
    else if (command.command === 'match') await matchCommand(pool, command);
    else if (command.command === 'cut') await cutCommand(pool, command);
    else if (command.command === 'place') await placeCommand(pool, command);
    else await mergeCommand(pool, command);
    return 0;
  } catch (thrown) {
    process.stderr.write(
      `${thrown instanceof Problem ? thrown.message : problemSentence(thrown, `“marsh ${argv.join(' ')}”`)}\n`,
    );
    return 1;
  } finally {
    pool.close();
  }
}
