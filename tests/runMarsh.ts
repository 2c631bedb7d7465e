import { jest } from '@jest/globals';
import { execFile } from 'node:child_process';
import { main } from '@/cli/main';
import { inlinePool } from './inlinePool';

/** What a run of the command line left. */
export interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the real command line in a process of its own. */
export function marshProcess(...args: string[]): Promise<Ran> {
  return new Promise((resolve) =>
    execFile(process.execPath, ['cli/marsh.mjs', ...args], { maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  );
}

/** Runs the same command within the test: a process of its own takes seconds to get warm. One at a time. */
export async function marsh(...args: string[]): Promise<Ran> {
  const [out, err]: string[][] = [[], []];
  const kept = (
    [
      [process.stdout, out],
      [process.stderr, err],
    ] as const
  ).map(([stream, lines]) =>
    jest.spyOn(stream, 'write').mockImplementation((text) => {
      lines.push(String(text));
      return true;
    }),
  );
  try {
    const code = await main(args, () => inlinePool(2));
    return { code, out: out.join(''), err: err.join('') };
  } finally {
    for (const spy of kept) spy.mockRestore();
  }
}
