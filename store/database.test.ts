import 'fake-indexeddb/auto';
import { afterEach, describe, expect, test } from '@jest/globals';
import { sampleProject } from '@/tests/sampleProject';
import {
  database,
  deleteProject,
  loadJournal,
  loadProject,
  mirrorProject,
  removeUnused,
  saveOriginal,
  hasOriginal,
  saveProject,
  shelfCards,
  writeJournal,
} from './database';
import { type StoredProject } from './storedProject';
import { rename } from './edits/geometry';
import { record, startHistory } from './history';
import { difference } from './keeping/difference';
import { replayed } from './keeping/journal';
import { TakenOver } from './keeping/takenOver';
import { START } from './session';

const CHANGED = '2026-10-03T12:00:00.000Z';
const stored = (id: string, change: Partial<StoredProject> = {}): StoredProject => {
  const project = { ...sampleProject(), id, changed: CHANGED };
  return { id, changed: CHANGED, project, session: START, past: [], future: [], ...change };
};

afterEach(async () => {
  for (const { id } of await shelfCards()) await deleteProject(id);
});

/** Waits until everything that was handed to the store before is done. */
const settled = async (): Promise<unknown> => (await database()).getAllKeys('journal');

describe('a journal beside the projects', () => {
  test('holds what was not written whole yet; a whole writing contains it', async () => {
    const first = stored('a', { holder: 'h', saved: 0 });
    await saveProject(first, true);
    const state = { ...startHistory(first.project), session: START };
    const named = { ...record(state, 'Named it A', rename('A')), session: START };
    const change = difference(state, named);
    if (!change) throw new Error('nothing changed');
    writeJournal({ project: 'a', holder: 'h', line: 1, change });
    await settled();
    const found = await loadProject('a');
    if (!found) throw new Error('not stored');
    const lines = await loadJournal(found);
    expect(replayed({ ...found, session: START }, found.saved ?? 0, lines).project.title).toBe('A');
    await saveProject({ ...first, project: named.project, saved: 1 });
    expect(await loadJournal({ ...found, saved: 1 })).toEqual([]);
  });

  test('a project that another tab took is not written by the one before, in whole or in part', async () => {
    await saveProject(stored('a', { holder: 'first' }), true);
    await saveProject(stored('a', { holder: 'second' }), true);
    const late = {
      ...stored('a', { holder: 'first' }),
      project: { ...sampleProject(), id: 'a', title: 'Late' },
    };
    await expect(saveProject(late)).rejects.toBeInstanceOf(TakenOver);
    writeJournal({ project: 'a', holder: 'first', line: 1, change: { to: 7 } });
    await settled();
    const found = await loadProject('a');
    if (!found) throw new Error('not stored');
    expect(found.project.title).toBe('Sample');
    expect(await loadJournal(found)).toEqual([]);
  });
});

describe('the store', () => {
  test('opens anew when the browser has closed it', async () => {
    await saveProject(stored('a'));
    (await database()).close();
    expect((await loadProject('a'))?.id).toBe('a');
    (await database()).close();
    await saveProject(stored('b'));
    expect((await shelfCards()).map((c) => c.id).sort()).toEqual(['a', 'b']);
  });

  test('recipes are kept a second time, and come back when the browser has given the database up', async () => {
    const { project, ...rest } = stored('a&b/..#%2e');
    const session = { ...rest.session, station: 'finish' as const };
    await saveProject(stored(project.id));
    await mirrorProject({ ...rest, project, session });
    await (await database()).clear('projects');
    const [card] = await shelfCards();
    expect([card.id, card.title, card.frames]).toEqual([project.id, 'Sample', 3]);
    expect((await loadProject(project.id))?.session.station).toBe('finish');
    // what was taken off the shelf stays off
    await deleteProject(project.id);
    expect(await shelfCards()).toEqual([]);
  });

  test('an original goes when no project, no step and no line of the journal names it', async () => {
    const hashes = [1, 2, 3, 4].map((n) => String(n).repeat(64));
    for (const hash of hashes) await saveOriginal(hash, Uint8Array.of(1));
    const one = stored('a', { holder: 'h' });
    await saveProject(
      { ...one, project: { ...one.project, frames: [{ ...one.project.frames[0], hash: hashes[0] }] } },
      true,
    );
    const steps = [
      {
        label: 'Took out',
        forward: [],
        backward: [{ op: 'add', path: ['frames', 0], value: { hash: hashes[1] } }],
      },
    ];
    await saveProject(stored('b', { past: steps as never }));
    writeJournal({ project: 'a', holder: 'h', line: 1, change: { to: { hash: hashes[2] } } });
    await settled();
    await removeUnused(hashes);
    expect(await Promise.all(hashes.map(hasOriginal))).toEqual([true, true, true, false]);
  });
});
