import { execFile } from 'node:child_process';
import { build, stop } from 'esbuild';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/**
 * Runs a TypeScript file of the tests in a plain Node process and returns what it printed as JSON. Heavy computation is several
 * times slower in the test runner's sandbox, where every global is looked up anew.
 */
export async function plainNode<T>(entry: string, ...args: string[]): Promise<T> {
  const outfile = `${root}dist/tests/${entry.replace(/\W+/g, '-')}.mjs`;
  await build({
    absWorkingDir: root,
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    alias: { '@': root.replace(/\/$/, '') },
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module';const require = requireFrom(import.meta.url);",
    },
    logLevel: 'error',
  });
  // its process would outlive the test's
  await stop();
  const printed = await new Promise<string>((resolve, reject) =>
    execFile(process.execPath, [outfile, ...args], { cwd: root, maxBuffer: 1e8 }, (error, stdout, stderr) =>
      error ? reject(new Error(stderr || error.message)) : resolve(stdout),
    ),
  );
  return JSON.parse(printed) as T;
}
