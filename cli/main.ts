import { Problem, problemSentence } from '@/core/proof/problem';
import { nodePool } from '@/engine/nodePool';
import { type WorkerPool } from '@/engine/workerPool';
import { type Command, readArguments, USAGE } from './readArguments';
import { checkWritable } from './writeOutput';

/**
 * Runs one command; returns the exit code. Progress and failures go to standard error.
 * @param makePool the workers that compute; threads of the bundled worker by default
 */
export async function main(
  argv: readonly string[],
  makePool = () => nodePool(new URL('./node.worker.mjs', import.meta.url)),
): Promise<number> {
  if (argv.length === 0 || argv.includes('--help') || argv.includes('-h')) {
    process.stdout.write(`${USAGE}\n`);
    return argv.length === 0 ? 1 : 0;
  }
  const pool = makePool();
  try {
    const command = readArguments(argv);
    // the workers load while the command does
    pool.wake();
    await checkWritable(writtenBy(command));
    await run(pool, command);
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

/** The files that a command writes. */
function writtenBy(command: Command): readonly (string | undefined)[] {
  if (command.command === 'inspect') return [];
  return [
    command.out,
    command.report,
    'project' in command && command.command !== 'render' ? command.project : undefined,
  ];
}

async function run(pool: WorkerPool, command: Command): Promise<void> {
  switch (command.command) {
    case 'inspect':
      process.stdout.write(`${await (await import('./inspectCommand')).inspectCommand(pool, command)}\n`);
      return;
    case 'render':
      return (await import('./renderCommand')).renderCommand(pool, command);
    case 'match':
      return (await import('./matchCommand')).matchCommand(pool, command);
    case 'cut':
      return (await import('./cutCommand')).cutCommand(pool, command);
    case 'place':
      return (await import('./placeCommand')).placeCommand(pool, command);
    case 'merge':
      return (await import('./mergeCommand')).mergeCommand(pool, command);
  }
}
