import { execFile } from 'node:child_process';

/** What a run of the command line left. */
export interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the real command line in a process of its own. */
export function marsh(...args: string[]): Promise<Ran> {
  return new Promise((resolve) =>
    execFile(process.execPath, ['cli/marsh.mjs', ...args], { maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  );
}
