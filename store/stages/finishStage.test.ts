import { afterAll, expect, test } from '@jest/globals';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, smallProject } from '@/tests/smallProject';
import { addEdit, newEdit } from '../edits/list';
import { finishedPicture } from '../deliver';
import { upToDate } from './finishStage';

const pool = inlinePool(2);
afterAll(() => pool.close());

test('a picture whose noise was not measured yet is not the one that is asked for', async () => {
  const start = await smallProject(pool);
  const bench = await reopened(pool, start);
  await settled(bench);
  const isUpToDate = (): boolean => {
    const state = bench.store.getState();
    return upToDate(state, state.history.project) !== undefined;
  };
  expect(isUpToDate()).toBe(true);
  const plate = bench.store
    .getState()
    .history.project.layers.find((l) => l.kind === 'picture' && l.source.kind === 'plate');
  if (!plate) throw new Error('no picture by itself');
  bench.actions.edit(
    'Noise',
    addEdit({ kind: 'layer', id: plate.id }, newEdit('n', 'noise', { strength: 1 })),
  );
  // what was made before is still there, and would be delivered without the edit
  expect(bench.store.getState().finished).toBeDefined();
  expect(isUpToDate()).toBe(false);
  await settled(bench);
  const first = await finishedPicture(bench, 65535, 0);
  const { project } = bench.store.getState().history;
  const fresh = await reopened(pool, { ...start, project: { ...project, made: {} } });
  await settled(fresh);
  const other = await finishedPicture(fresh, 65535, 0);
  expect(Buffer.compare(Buffer.from(first.data.buffer), Buffer.from(other.data.buffer))).toBe(0);
  await Promise.all([bench.actions.close(), fresh.actions.close()]);
});
