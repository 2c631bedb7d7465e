import { describe, expect, test } from '@jest/globals';
import { findEdit } from '@/core/edits/ranked';
import { exposed } from '@/tests/exposed';
import { inlinePool } from '@/tests/inlinePool';
import { sampleDecoded, sampleProject } from '@/tests/sampleProject';
import { reopened, settled, smallProject } from '@/tests/smallProject';
import { benchOf } from '@/tests/testBench';
import { projectAfter, stepsOfRecord } from './earlierPicture';
import { setGeometry } from './edits/geometry';
import { setMeasure } from './edits/sets';
import { upToDate } from './stages/finishStage';

/** A bench on which things were done, some taken back and done again. */
function worked() {
  const bench = benchOf(sampleProject());
  bench.store.setState({ decoded: sampleDecoded() });
  const { actions, store } = bench;
  actions.edit('Exposure', exposed(0.25));
  actions.note('Merged');
  actions.edit('Exposure', exposed(0.5));
  actions.edit('Exposure', exposed(2));
  actions.undo();
  actions.edit('Wide', setGeometry({ ratio: '2:1' }));
  actions.undo();
  actions.redo();
  actions.edit('Exposure', exposed(1));
  return { bench, history: store.getState().history };
}

describe('what the picture was', () => {
  test('lines that still stand know their step; what was taken back, or noted, has none', () => {
    const { history } = worked();
    const { log } = history.project;
    const steps = stepsOfRecord(history);
    const told = log.flatMap(({ text }, line) => (steps.has(line) ? [[text, steps.get(line)]] : []));
    expect(told).toEqual([
      ['Exposure', 0],
      ['Exposure', 1],
      ['Did again: Wide', 2],
      ['Exposure', 3],
    ]);
  });

  test('the recipe after a step, cropped as now; the last step is no earlier one', () => {
    const { history } = worked();
    const stops = (step: number) => {
      const then = projectAfter(history, step);
      return then && findEdit(then.edits, 'exposure')?.settings.stops;
    };
    expect([0, 1, 2].map(stops)).toEqual([0.25, 0.5, 0.5]);
    expect(projectAfter(history, 0)?.geometry.ratio).toBe('2:1');
    expect([-1, 3, 9].map((step) => projectAfter(history, step))).toEqual([undefined, undefined, undefined]);
  });

  test('it is what “before” shows, until another is asked for', () => {
    const { bench } = worked();
    const shown = () => bench.shown(bench.store.getState());
    const exposure = (hash = ''): unknown => {
      const nodes = shown().scene?.picture?.nodes;
      for (let node = nodes?.get(hash); node; node = nodes?.get(node.inputs[0] ?? ''))
        if (node.kind === 'expose') return node.settings;
      return undefined;
    };
    bench.actions.go({ station: 'finish', look: 'before', before: 'then', then: 0 });
    expect(exposure(shown().before?.finished)).toMatchObject({ stops: 0.25 });
    bench.actions.go({ then: 1 });
    expect(exposure(shown().before?.finished)).toMatchObject({ stops: 0.5 });
    // what is done now is no part of it
    bench.actions.edit('Exposure', exposed(-1));
    expect(exposure(shown().before?.finished)).toMatchObject({ stops: 0.5 });
    // taken back to there, it is the picture itself: the station's own step is compared again
    for (let k = 0; k < 4; k++) bench.actions.undo();
    expect(exposure(shown().before?.finished)).toMatchObject({ stops: 0.25 });
    for (let k = 0; k < 4; k++) bench.actions.redo();
    bench.actions.go({ before: 'finish' });
    expect(exposure(shown().before?.finished)).toMatchObject({ stops: -1 });
  });

  test('what was merged otherwise then is not at hand', async () => {
    const pool = inlinePool(2);
    const bench = await reopened(pool, await smallProject(pool));
    await settled(bench);
    bench.actions.edit('Exposure', exposed(0.5));
    bench.actions.edit('Even weights', setMeasure('set', 'exposedness', 0.1));
    bench.actions.edit('Exposure', exposed(1));
    await settled(bench);
    const state = bench.store.getState();
    const hand = [0, 1].map((step) => {
      const then = projectAfter(state.history, step);
      return then && upToDate(state, then) !== undefined;
    });
    expect(hand).toEqual([false, true]);
    await bench.actions.close();
  }, 100_000);
});
