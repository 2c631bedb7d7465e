import { afterEach, describe, expect, test } from '@jest/globals';
import { emptyProject } from '@/core/recipe/emptyProject';
import { inlinePool } from '@/tests/inlinePool';
import { until } from '@/tests/liveBench';
import { smallBracket } from '@/tests/smallBracket';
import { addFiles } from './addFiles';
import { type Bench } from './benchState';
import { openBench } from './bench';
import { removeFrame } from './edits/frames';
import { setHow } from './edits/sets';
import { forgotten } from './forget';
import { memoryOriginals } from './keeping/memoryOriginals';
import { TAB_BUDGET } from './memory';
import { START } from './session';

let open: Bench | undefined;
afterEach(() => open?.actions.close());

/** A bench with a small bracket, fitted and merged, whose originals are kept. @param beside bytes that stay for a step back */
async function merged(beside: number): Promise<Bench> {
  const project = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  const bench = openBench({
    pool: inlinePool(2),
    stored,
    save: () => Promise.resolve(),
    originals: memoryOriginals(),
    budget: { ...TAB_BUDGET, beside },
  });
  open = bench;
  const shots = await smallBracket(false, [200, 140]);
  await addFiles(
    bench,
    shots.map(({ name, buffer }) => ({ name, read: () => Promise.resolve(new Uint8Array(buffer)) })),
  );
  await whole(bench);
  return bench;
}

const whole = (bench: Bench): Promise<void> =>
  until(bench, () => bench.store.getState().finished !== undefined && !bench.store.getState().work);

const count = (bench: Bench): number => Object.keys(bench.store.getState().decoded).length;

describe('what is held in memory', () => {
  test('pixels of a frame that is taken out go; a step back reads the original again', async () => {
    const bench = await merged(0);
    const state = () => bench.store.getState();
    const [first] = state().history.project.frames;
    expect(count(bench)).toBe(3);
    bench.actions.edit('out', removeFrame(first.id));
    expect(count(bench)).toBe(2);
    expect(state().decoded[first.hash]).toBeUndefined();
    bench.actions.undo();
    await until(bench, () => state().decoded[first.hash] !== undefined);
    await until(bench, () => !state().work && state().history.project.frames.length === 3);
    expect(state().problems).toEqual([]);
  }, 60_000);

  test('a small one stays at hand', async () => {
    const bench = await merged(400e6);
    const [first] = bench.store.getState().history.project.frames;
    bench.actions.edit('out', removeFrame(first.id));
    expect(count(bench)).toBe(3);
  }, 60_000);

  test('pictures that were prepared another way go, facts stay', async () => {
    const bench = await merged(0);
    const state = () => bench.store.getState();
    const pictures = (): number => Object.values(state().made).filter((v) => v.is === 'picture').length;
    const facts = (): number => Object.values(state().made).filter((v) => v.is === 'fact').length;
    const { base } = state().history.project;
    for (const balance of ['even', 'shot', 'even'] as const) {
      bench.actions.edit('prepared', setHow(base, { prepare: { balance } }));
      await until(bench, () => !state().work && (balance === 'shot' || pictures() === 3));
    }
    expect(pictures()).toBe(3);
    expect(facts()).toBeGreaterThan(0);
    bench.actions.edit('as it was', setHow(base, { prepare: { balance: 'shot' } }));
    expect(pictures()).toBe(0);
    expect(forgotten(state(), { ...TAB_BUDGET, beside: 0 })).toBeUndefined();
  }, 60_000);
});
