// npm run gauntlet [-- --scale N] [-- --only files,projects,browser]: tries hard to lose or hang something, and writes what became of it
// to docs/reliability.md. Minutes by default; a scale of 10 takes hours. Seeded: the same seed gives the same files.
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { findChromium, installPackages } from './install.mjs';

installPackages();
const { bundle, CLI_ENTRIES } = await import('./bundle.mjs');
const { buildIfStale } = await import('./build.mjs');
const root = fileURLToPath(new URL('..', import.meta.url));
const { values } = parseArgs({
  options: {
    scale: { type: 'string', default: '1' },
    seed: { type: 'string', default: '1' },
    only: { type: 'string', default: 'files,projects,browser' },
  },
});
const scale = Number(values.scale);
const seed = Number(values.seed);
const only = values.only.split(',');
const times = (n) => Math.max(1, Math.round(n * scale));

/** Runs a part of the gauntlet in Node and gathers its results, one a line. */
function results(...args) {
  return new Promise((done, fail) => {
    const rows = [];
    const child = spawn(process.execPath, ['dist/gauntlet.mjs', '--seed', String(seed), ...args], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    createInterface({ input: child.stdout }).on('line', (line) => rows.push(JSON.parse(line)));
    child.on('close', (code, signal) =>
      code === 0
        ? done(rows)
        : fail(new Error(`a process died of a file: ${signal ?? code}, after ${rows.length}`)),
    );
  });
}

const count = (rows, outcome) => rows.filter((r) => r.outcome === outcome).length;
const worst = (rows, key) => rows.reduce((most, r) => Math.max(most, r[key]), 0);

/** A line of the table: what was tried, how often, what became of it. */
function line(what, rows) {
  const bad = rows.filter((r) => !['opened', 'refused'].includes(r.outcome));
  for (const r of bad)
    console.error(`${r.name}: ${r.outcome}, ${Math.round(r.ms)} ms, ${Math.round(r.mb)} MB. ${r.said ?? ''}`);
  return [
    what,
    String(rows.length),
    `${count(rows, 'opened')} opened, ${count(rows, 'refused')} refused by a sentence, ${count(rows, 'slow')} too slow, ${count(rows, 'large')} too large, ${count(rows, 'broken')} without a sentence`,
    `${Math.round(worst(rows, 'ms'))} ms, ${Math.round(worst(rows, 'mb'))} MB`,
  ];
}

const table = [];
let failed = false;

if (only.includes('files') || only.includes('projects'))
  await bundle({ ...CLI_ENTRIES, gauntlet: 'gauntlet/main.ts' });
if (only.includes('files')) {
  const of = Math.min(2, availableParallelism());
  const wanted = times(1000);
  console.log(`${wanted} mutated files`);
  const parts = await Promise.all(
    Array.from({ length: of }, (_, part) =>
      results('--what', 'files', '--count', String(wanted), '--part', String(part), '--of', String(of)),
    ),
  );
  table.push(line('mutated and hostile files', parts.flat()));
}
if (only.includes('projects')) {
  const wanted = times(1000);
  console.log(`${wanted} hostile projects`);
  table.push(
    line(
      'hostile projects through the gate and what the bench asks of them',
      await results('--what', 'projects', '--count', String(wanted)),
    ),
  );
}
if (only.includes('browser')) {
  await buildIfStale();
  const asked = {
    CLOSES: times(40),
    KILLS: times(50),
    PROJECTS: times(40),
    ROUNDS: times(10),
    FULL: times(4),
    DISKS: process.getuid?.() === 0 ? times(4) : 0,
    SEED: seed,
  };
  console.log('in the browser', asked);
  const status = await new Promise((done) =>
    spawn(
      process.execPath,
      ['node_modules/@playwright/test/cli.js', 'test', 'gauntlet', 'fullDisk', '--reporter', 'list,json'],
      {
        cwd: root,
        stdio: ['ignore', 'inherit', 'inherit'],
        env: {
          ...process.env,
          ...Object.fromEntries(Object.entries(asked).map(([k, v]) => [k, String(v)])),
          CHROMIUM: findChromium(),
          PLAYWRIGHT_JSON_OUTPUT_NAME: `${root}test-results/gauntlet.json`,
        },
      },
    ).on('close', done),
  );
  failed ||= status !== 0;
  const report = JSON.parse(await readFile(`${root}test-results/gauntlet.json`, 'utf8'));
  const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)];
  for (const spec of report.suites.flatMap(specs)) {
    const [{ results: runs }] = spec.tests;
    const seconds = Math.round(runs.reduce((sum, r) => sum + r.duration, 0) / 1000);
    table.push([spec.title, '', spec.ok ? 'held' : 'did not hold', `${seconds} s`]);
  }
}

const MARK = '<!-- last figures -->';
const path = `${root}docs/reliability.md`;
const [before] = (await readFile(path, 'utf8')).split(MARK);
const rows = [['what', 'times', 'what became of it', 'at most'], ['---', '---', '---', '---'], ...table];
const day = new Date().toISOString().slice(0, 10);
await writeFile(
  path,
  `${before}${MARK}\n\n${day}, scale ${scale}, seed ${seed}, parts ${only.join(', ')}.\n\n${rows.map((r) => `| ${r.join(' | ')} |`).join('\n')}\n`,
);
console.log(rows.map((r) => r.join(' | ')).join('\n'));
if (failed || /did not hold|[1-9]\d* (too slow|too large|without)/.test(rows.flat().join(' ')))
  process.exitCode = 1;
