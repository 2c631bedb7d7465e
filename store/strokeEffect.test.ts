import { afterEach, expect, test } from '@jest/globals';
import { emptyProject } from '@/core/recipe/emptyProject';
import { inlinePool } from '@/tests/inlinePool';
import { liveBench, until } from '@/tests/liveBench';
import { smallBracket } from '@/tests/smallBracket';
import { addFiles } from './addFiles';
import { type Bench } from './benchState';
import { addFill } from './edits/layers';
import { addPart } from './edits/regions';
import { idleStroke } from './strokeEffect';

let bench: Bench;
afterEach(() => bench.actions.close());

test('a stroke in a layer that another one covers changes nothing, and the one that shows is offered', async () => {
  bench = liveBench(emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z'), inlinePool(2));
  const shots = await smallBracket(false, [300, 200]);
  await addFiles(
    bench,
    shots.map(({ name, buffer }) => ({ name, read: () => Promise.resolve(new Uint8Array(buffer)) })),
  );
  const state = () => bench.store.getState();
  await until(bench, () => state().finished !== undefined && !state().work);
  const colour = (v: number) => ({ kind: 'colour', colour: [v, v, v] }) as const;
  bench.actions.edit('fills', (draft) => {
    addFill('under', 'under', colour(0.2))(draft);
    addFill('over', 'over', colour(0.8))(draft);
    addFill('same', 'same', colour(0.8))(draft);
    const hidden = draft.layers.find((l) => l.id === 'same');
    if (hidden) hidden.shown = false;
    // over the left half
    const corners: [number, number][] = [
      [0, 0],
      [0.5, 0],
      [0.5, 1],
      [0, 1],
    ];
    addPart({ kind: 'layer', layer: 'over' }, 'add', { kind: 'polygon', settings: { corners } })(draft);
  });
  const { signal } = new AbortController();
  const at = (layer: string, ...places: [number, number][]) =>
    idleStroke(state(), layer, { project: state().history.project, places, pool: bench.pool, signal });
  // covered on the left, open on the right
  expect(await at('under', [60, 100])).toEqual({ layer: 'under', meant: 'over' });
  expect(await at('under', [240, 100])).toBeUndefined();
  // one place where it shows is enough
  expect(await at('under', [60, 100], [240, 100])).toBeUndefined();
  expect(await at('over', [60, 100])).toBeUndefined();
  // what is only not shown yet would show
  expect(await at('same', [240, 100])).toBeUndefined();
}, 60_000);
