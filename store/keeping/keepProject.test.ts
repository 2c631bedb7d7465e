import { expect, test } from '@jest/globals';
import { type Project } from '@/core/recipe/project';
import { memoryOriginals } from '@/store/keeping/memoryOriginals';
import { poolThat } from '@/tests/poolThat';
import { sampleProject } from '@/tests/sampleProject';
import { openBench } from '../bench';
import { rename } from '../edits/geometry';
import { START } from '../session';

test('where the database gives up, the recipe is kept as a file, and that is said until it answers again', async () => {
  const project = sampleProject();
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  let answers = false;
  let room = false;
  const files: Project[] = [];
  const originals = new Map(project.frames.map(({ hash }) => [hash, new Uint8Array(1)]));
  const bench = openBench({
    ...{ pool: poolThat(), stored, originals: memoryOriginals(originals) },
    save: () =>
      answers ? Promise.resolve() : Promise.reject(new DOMException('Internal error.', 'UnknownError')),
    mirror: (kept) =>
      room ? Promise.resolve(void files.push(kept.project)) : Promise.reject(new Error('full')),
  });
  const { store, actions } = bench;
  actions.edit('Named it A', rename('A'));
  await actions.flush();
  expect(store.getState().saving).toBe('failed');
  expect(store.getState().problems.join()).toContain('store does not answer (Internal error.)');
  room = true;
  actions.edit('Named it B', rename('B'));
  await actions.flush();
  expect(files[0].title).toBe('B');
  expect(store.getState().saving).toBe('saved');
  expect(store.getState().problems).toEqual([expect.stringContaining('kept as a file beside it')]);
  answers = true;
  actions.edit('Named it C', rename('C'));
  await actions.flush();
  expect(store.getState().problems.filter((p) => p.includes('beside'))).toEqual([]);
  // a database that was given up once is not trusted again
  expect(files.map((f) => f.title)).toEqual(['B', 'C']);
  await actions.close();
});
